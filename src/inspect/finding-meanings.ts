// A table: what each finding means, one entry a finding.

import type { FindingCode } from './finding-catalogue.js';

/** What a finding is called, why it matters to a designer, and how it is found. */
export interface FindingMeaning {
  readonly title: string;
  readonly why: string;
}

/** What every finding means, apart from what is said of one design. `docs/findings` is made from this. */
export const meanings: { readonly [Code in FindingCode]: FindingMeaning } = {
  'transition-unreachable': {
    title: 'Transition that can never be taken',
    why: 'The search visited every state the design can be in (in a game that allows at least as much as the real one), and no state takes this transition. The reason names the condition that never holds and how close the counters came.',
  },
  'transition-shadowed': {
    title: 'Transition always pre-empted by an earlier one',
    why: 'When several transitions of a screen could be taken at the same moment, the first in the file is. Whenever this one could be taken, an earlier one is.',
  },
  'transition-undecided': {
    title: 'Undecided transition',
    why: 'The search hit a limit, or found a path that ignores time and no session that follows it in real time. Nothing is claimed either way.',
  },
  'out-of-time': {
    title: 'Transition no player is fast enough for',
    why: 'A player attends to one piece at a time, and each attempt takes time. Even the fastest player of the design, succeeding every time, is too late: a timer ends first.',
  },
  'screen-unreachable': {
    title: 'Screen never entered',
    why: 'No transition leads to it, or none of those that do can be taken.',
  },
  'level-unreachable': {
    title: 'Level never reached',
    why: 'No transition that can be taken leads to it: often a `level: next` is missing, or its condition never holds.',
  },
  'no-way-back': {
    title: 'Ending with no way back',
    why: 'A player who lost, or won, wants to play again. From this ending no fresh start of a run can be reached.',
  },
  'way-back-lost': {
    title: 'Ending that lost its way back',
    why: 'A fresh start exists, but not from here: its condition no longer holds, or the way back into play resets nothing, so the run ends again at once. The session shown leads there.',
  },
  'dead-end': {
    title: 'Screen with no way out',
    why: 'Nothing leads out of a screen that is neither live nor an ending.',
  },
  trap: {
    title: 'State with no way to an ending',
    why: 'A player who gets here plays on for ever: whatever happens, no ending follows. Often something waits for a piece that was missed. The session shown leads there.',
  },
  'missed-for-good': {
    title: 'Level that cannot end once a piece is missed',
    why: 'Something waits for a piece that never appears again. Once it is missed, no ending can be reached and the player plays on for ever. The session shown misses it.',
  },
  'over-at-once': {
    title: 'Level over the moment it begins',
    why: 'The condition that ends it already holds at the start: "none left" before any appeared, or a counter the fresh start did not reset.',
  },
  'no-loss': {
    title: 'Live screen without a way to lose',
    why: 'The design has endings, but from this live screen none that is lost can be reached: nothing is at stake.',
  },
  'ending-untold': {
    title: 'Ending without a text',
    why: 'A player who is shown nothing does not know that the run is over, or why.',
  },
  fault: {
    title: 'Session that ends in a fault',
    why: 'Rules that trigger each other endlessly, a counter past 2^53, a level past the last, or ten thousand pieces at once. The code is that of the fault; the session shown runs into it.',
  },
  residue: {
    title: 'Restart that leaves stale state',
    why: 'After this transition back into play, something kept for a run or shorter differs from a first start. It was found by playing: the session shown leads there.',
  },
  'set-and-put-back': {
    title: 'Counter set and reset in one transition',
    why: 'A transition runs its effects before its fresh start, so what is set here is reset at once: two places write one counter.',
  },
  'level-not-fresh': {
    title: 'Next level without a fresh start',
    why: 'It goes to another level with no fresh: level, so that what is kept for a level is carried over into the next.',
  },
  'outlives-the-run': {
    title: 'Timer, score, stake or streak not reset by a fresh run',
    why: 'A timer, the score, a counter that an ending depends on, or one that play builds up and sets back is kept for longer than a run: it goes on where it was when the player starts again.',
  },
  'hit-at-once': {
    title: 'Hazard that can hit at the start',
    why: 'A fresh start drops the player next to something that can hurt within a second, with no grace.',
  },
  'hit-unforeseen': {
    title: 'Hazard that nobody can see coming',
    why: 'It reaches the player sooner after it appears than anybody reacts to what they see, so that only luck avoids it.',
  },
  'rule-unreachable': {
    title: 'Rule that can never fire',
    why: 'Every state that the design can be in was visited, and none fires it.',
  },
  'rule-shadowed': {
    title: 'Rule always pre-empted by an earlier one',
    why: 'Rules on one event fire in the order of the file, each seeing what the one before it did. Whenever this one could fire, an earlier one has already changed what its condition reads.',
  },
  'rule-deaf': {
    title: 'Rule on screens where its event cannot happen',
    why: 'Pieces are met on live screens only, and a timer fires only where it runs.',
  },
  'event-unheard': {
    title: 'Event of your own that nothing hears',
    why: 'It is emitted, and no rule or transition has it in its when.',
  },
  'piece-unheard': {
    title: 'Piece that no rule mentions',
    why: 'Meeting it changes nothing.',
  },
  'piece-nowhere': {
    title: 'Piece that never appears',
    why: 'Levels place or spawn other pieces, but nothing makes this one appear.',
  },
  'counter-unwritten': {
    title: 'Counter that nothing changes',
    why: 'It is read or shown, and always holds what it started with.',
  },
  'target-out-of-reach': {
    title: 'Target above what any session can score',
    why: 'The highest score was proved, and the target asks for more: no setting of the players can meet it.',
  },
  'score-constant': {
    title: 'Score that never changes',
    why: 'Rules write the score, and in every session it keeps the value that it started with: what multiplies 0, or takes from a score at its min, changes nothing.',
  },
  'counter-unread': {
    title: 'Counter that nothing reads or shows',
    why: 'It is written, and neither a condition, an amount, a text nor the HUD ever looks.',
  },
  unused: {
    title: 'Counter, dial or level value that is not used',
    why: 'Nothing writes, reads or shows it. It may be left over, or what was to use it names another.',
  },
  'counter-unshown': {
    title: 'Counter that changes in play and is not shown',
    why: 'A player cannot follow what they cannot see. It changes on a live screen, and neither the HUD nor a text shows it on one.',
  },
  'set-past-bound': {
    title: 'Counter set past its bound',
    why: 'The number lies outside the min and max of the counter, which hold it: add was meant, or the bound is wrong.',
  },
  'more-than-fits': {
    title: 'More added than there is room for',
    why: 'The amount is larger than all that lies between the min and the max of the counter, so it is always full afterwards: a digit too many, or set was meant.',
  },
  'score-set': {
    title: 'Points that replace the points before',
    why: 'A rule that hears what becomes of a piece sets the score to a number, whatever it was before: all points gathered until then are gone.',
  },
  'only-set': {
    title: 'Counter that never counts',
    why: 'The counter has a max, and everything that writes it sets it to a number far below: add was meant somewhere.',
  },
  'set-twice': {
    title: 'Two rules that set one counter on one event',
    why: 'Both fire, and what the first set is gone: two places write the same counter, and only the later counts.',
  },
  'hit-without-pause': {
    title: 'Loss that repeats during one contact',
    why: 'Contact lasts many frames. Without a grace, a rest or a way off the screen, a game that reports it each frame without an id takes a life each frame.',
  },
  'below-zero': {
    title: 'Score that can fall below zero',
    why: 'A rule takes from it, and it has no min.',
  },
  'points-lost': {
    title: 'Score whose max loses points',
    why: 'What is added past the max is not counted.',
  },
  'points-after-the-end': {
    title: 'Points after the run has ended',
    why: 'A rule adds to the score on an ending, on something else than entering it.',
  },
  'changes-nothing': {
    title: 'Write that changes nothing',
    why: 'It adds nothing, it sets what its own condition says is there already, or the counter can hold one value only.',
  },
  'spawn-unbounded': {
    title: 'Spawn without bound or end',
    why: 'The pieces wait for the player for ever, and nothing limits how many there are: the longer a player does nothing, the more lie about.',
  },
  'many-pieces': {
    title: 'Expression that allows very many pieces',
    why: 'More than a hundred of a piece at once are seldom meant, and each number of them is a state of its own where it counts: the search can get large.',
  },
  'difficulty-held': {
    title: 'Difficulty past its range',
    why: 'A difficulty is held between -20 and 20 logits; at either end nobody ever fails, or nobody ever succeeds.',
  },
  'unlike-its-twin': {
    title: 'Rule that lacks what its twin has',
    why: 'Two rules do the same, each for one of two sides: two players in turn, left and right. One of them asks for something, or changes something, that the other does not. Most often it was forgotten when the one was copied from the other.',
  },
  'outcome-unheard': {
    title: 'One of several outcomes that nothing hears',
    why: 'A piece has outcomes of its own, and rules or transitions hear all of them but this one. Meeting it so changes nothing. Of the last one, which is what becomes of a piece that nobody meets, nothing is told.',
  },
  'met-by-nobody': {
    title: 'Piece that no simulated player meets',
    why: 'A rule hears what becomes of a prop, and the design describes its players, but nobody meets a prop unless it says how. All figures of a simulation are of a game in which nothing ever becomes of it.',
  },
  'pressed-by-nobody': {
    title: 'Input that no player presses in play',
    why: 'A rule hears the input on a live screen, and no player of the design has it among its acts. All figures of a simulation are of a game in which it is never pressed.',
  },
  'pressed-in-vain': {
    title: 'Press in play that nothing hears there',
    why: 'The acts of a player are pressed on live screens alone, and the input is heard only on screens that stand still. There players choose by themselves among all that can be pressed.',
  },
  'acted-by-nobody': {
    title: 'Piece that no player acts on',
    why: 'Its success needs one event, and no simulated player presses the input that leads to it: it always gets through.',
  },
  'difficulty-unread': {
    title: 'Difficulty without effect',
    why: 'How meeting the piece ends is not a matter of skill: its own outcomes are weighed, or simulated players never meet it. The number changes nothing.',
  },
  'max-below-min': {
    title: 'Max that can lie below the min',
    why: 'A bound that is an expression can cross the other one. The counter is then held at its min, whatever its max says.',
  },
  'interval-too-short': {
    title: 'Interval that can be zero or less',
    why: 'The expression gives nothing, or less, in some level; it is then held at a millisecond, a thousand times a second.',
  },
  'in-milliseconds': {
    title: 'Time that looks like milliseconds',
    why: 'Times are in seconds. This one is longer than anybody sits through, and as milliseconds it would be an ordinary one.',
  },
  'runs-idle': {
    title: 'Timer that runs on a screen that is not live',
    why: 'It goes on while nothing is played, and nothing there hears it: on a pause or a menu the time of play runs out unseen.',
  },
  'countdown-unshown': {
    title: 'Countdown that ends something and is not shown',
    why: 'A transition hears it, or a rule that changes a counter, and neither the HUD nor a text shows in play how much time is left.',
  },
  'timer-unheard': {
    title: 'Timer that nothing hears',
    why: 'It fires, and no rule or transition has it in its when; nor is it read, or if it is not a countdown, shown.',
  },
  'too-wide': {
    title: 'Counter wider than its digits',
    why: 'The HUD gives it fewer digits than its max has, or than one write adds, so that it jumps to the side when it grows.',
  },
  'never-shown': {
    title: 'Prompt whose condition never holds',
    why: 'Within the ranges of the counters it reads it is always false, so that the HUD never shows it.',
  },
  'clock-stands': {
    title: 'Clock of a timer that does not run',
    why: 'It is shown on a screen on which its timer stands still all the time.',
  },
  'shown-in-vain': {
    title: 'Counter shown where it cannot matter',
    why: 'Nothing is played on that screen, no play leads straight to it, and every way on puts the counter back to its start.',
  },
  'input-unused': {
    title: 'Input that is offered and used by nothing',
    why: 'A prompt offers it, and no rule, transition or list has it in its when.',
  },
  'input-not-taken': {
    title: 'Prompt for an input that the screen does not take',
    why: 'The prompt is shown on a screen on which no rule or transition hears its input: whoever follows it sees nothing happen.',
  },
  'needs-the-game': {
    title: 'Transition that the design’s own spawns do not reach',
    why: 'A session that reaches it has pieces sooner, or more of them, than levels, spawns and rules make appear, and no session of simulated players came to it: neither those of the design, nor one who never misses, nor one who always does. A game that brings the pieces itself can reach it.',
  },
  'first-pays-nothing': {
    title: 'Factor that is 0 the first time',
    why: 'The amount is multiplied by a counter that starts at 0, and the same rule raises it only then: the first time, and each time after it was put back, pays nothing.',
  },
  'next-level-of-a-fresh-run': {
    title: 'Next level that resets the run',
    why: 'Going on to the next level and beginning the run afresh contradict each other: the score and the lives go back to their start in the middle of the game.',
  },
  'read-after-set': {
    title: 'Amount that reads what was just set',
    why: 'Effects of one list happen in order, each seeing what the one before it wrote: the counter has been set to a constant, or the timer started, when this amount reads it.',
  },
  'best-overwritten': {
    title: 'Best score that a worse one overwrites',
    why: 'It is kept over runs and set to the score of each, however low: it holds the last score, not the best.',
  },
  'goal-carried-over': {
    title: 'Goal of a level that counts on from the last',
    why: 'Each level asks for its own amount, and the counter that is asked goes on from level to level: what was earned for one counts for the next, which may be over at once.',
  },
  'lives-without-end': {
    title: 'Lives that run out with nothing happening',
    why: 'Hits take from the counter, and no condition asks how much of it is left: at its min the game goes on.',
  },
  'harm-that-helps': {
    title: 'Hazard that gives lives',
    why: 'A hazard is there to be avoided, and its hit adds to the lives, or to what else the run is lost for want of: players had better run into it.',
  },
  'part-never-holds': {
    title: 'Part of a condition that never holds',
    why: 'The condition has several parts joined by "or", and by the bounds of what one of them reads it is never true: the others decide alone.',
  },
  'pause-is-live': {
    title: 'Pause in which play goes on',
    why: 'The screen is called a pause, is entered by a press and leads back to where it came from, but it is live: clocks run, and pieces appear and wait, while nobody plays.',
  },
  'taken-again': {
    title: 'New try that is over at once',
    why: 'The transition waits for a condition alone, leads back to its own screen, and leaves all that the condition reads as it is. It goes round until something else changes: all tries are used up in one moment.',
  },
  'paid-again': {
    title: 'What is brought in, paid for and not taken',
    why: 'The rule adds points, or something else, for what a counter holds, or where a press finds enough of it, and does not take it: in the session that is shown the same is paid for twice. Whoever has it once can be paid for it for ever.',
  },
  'bought-harder': {
    title: 'Purchase that makes something harder',
    why: 'The counter rises only for a price, and the difficulty of a piece rises with it: whoever pays is worse off. Most often a sign is the wrong way round.',
  },
  'delivered-once': {
    title: 'Place to deliver that is a checkpoint',
    why: 'What is carried is paid for and put down where a checkpoint is reached. A simulated player leaves a checkpoint alone that was reached, so whatever is carried there is delivered once. A prop that stays is come back to.',
  },
  'steps-out-of-order': {
    title: 'Steps that go one way and back',
    why: 'Rules set one counter in steps as another goes on, and one of the steps is in the wrong place: with "turns > 18" for 2 stars and "turns > 12" for 1, of 3 stars one is left at 13 turns and two at 19. Of rules that hear the same event, the step further on is overwritten by one that holds as well and stands below it.',
  },
  'fires-at-once': {
    title: 'Rule that fires as a run begins',
    why: 'The rule has no event and waits for its condition, which holds already with the counters at their starts: it fires in the first moment and writes counters then. Most often it compares the wrong way round.',
  },
  'easier-by-level': {
    title: 'Formula that makes later levels easier',
    why: 'The formula of a difficulty falls with the number of the level, or that of the time between two hazards or foes grows: the first level is the hardest. Most often a sign is the wrong way round.',
  },
  'left-between': {
    title: 'Number that two conditions leave out between them',
    why: 'Two transitions, or two rules that write the same counter, ask for either side of a number at the same moment, and leave some of it out: with "right >= 6" and "right < 5" nothing happens at 5, and with "amber > russet" and "amber < russet" nothing at a draw. Nothing else is done there.',
  },
  'never-broken': {
    title: 'Streak that nothing breaks',
    why: 'It is called a streak, a combo or a chain, successes raise it, and no miss and no hit sets it back before the run is over: it is the number of successes once more.',
  },
  'passed-by': {
    title: 'Number that a counter steps over',
    why: 'The condition asks for one number exactly, and the counter moves by more than one: in the session that is shown it goes from one side of the number to the other, and what waits for it never comes.',
  },
  'choice-never-taken': {
    title: 'Choice of which one side is never taken',
    why: 'What the choice asks for comes out one way only, by the bounds of what it reads or by what was asked before it: of steps such as "chain >= 10 ? 2 : chain >= 30 ? 4 : 1" the higher one is never reached.',
  },
  'ending-named-otherwise': {
    title: 'Ending that is called the other way round',
    why: 'The name of the screen says that the run is won, and its ending that it is lost, or the other way round: figures, targets and findings go by the ending.',
  },
  'fewer-than-none': {
    title: 'Formula that places fewer than none',
    why: 'A number of pieces is worked out from the level, and comes to less than 0 there: the formula was made for other levels, or has a sign wrong.',
  },
  'end-in-vain': {
    title: 'Time that is up with nothing to show for it',
    why: 'The HUD counts down to something, and the only transition that hears the end has a condition. Where that does not hold the clock stands at 0 and play goes on.',
  },
  'untried-costs': {
    title: 'Miss that costs what was never tried',
    why: 'The miss takes some of what the piece needs, as a try does, and it also happens to a piece that has waited for as long as it lasts: leaving it alone costs as much as failing at it.',
  },
  'lost-before-won': {
    title: 'Win that comes too late by its place in the file',
    why: 'Of two transitions from one screen the first that holds is taken. Here one event can bring about both, as the last try that reaches the goal does, and the lost ending stands first.',
  },
  'ends-early': {
    title: 'Run that is lost with a life left',
    why: 'The ending waits for more than the least that the counter can hold: the HUD still shows a life when the run is lost.',
  },
  'win-lost-for-good': {
    title: 'Win that one miss makes impossible',
    why: 'From this state on the run can only be lost: what the win asks for is gone, and the player plays on without knowing. Every state was visited; the session that is shown leads there.',
  },
  'harm-unheard': {
    title: 'Hit that no rule hears',
    why: 'Rules hear what else becomes of the hazard or foe, and not that it hits: it can be beaten or avoided, and does no harm.',
  },
  'gain-unheard': {
    title: 'Success that no rule hears',
    why: 'A rule hears that the piece is missed, or that the foe hits, and nothing hears that the player has succeeded: the two were swapped, or a rule is missing.',
  },
  'success-costs': {
    title: 'Success that costs',
    why: 'All that the rule does where the player takes the piece, or beats the foe, is to take points or lives away: a sign is wrong, or it is a hazard.',
  },
  'left-out': {
    title: 'Piece that its sisters’ rules leave out',
    why: 'A rule hears this outcome of another piece of the same group, and nothing hears it of this one: a rule was copied for each piece, and once too few.',
  },
  'hard-for-nothing': {
    title: 'Piece that is harder and worth no more',
    why: 'It takes more skill and no less time than another, and adds no more to any counter: a player who sees both never has a reason to go for this one.',
  },
  'needs-never-hold': {
    title: 'Piece that can never be met',
    why: 'Its needs hold in no state that the design can be in while the piece is there.',
  },
  'spawn-blocked': {
    title: 'Spawn that its own pieces block',
    why: 'The piece stays where it is when it is met, nothing takes it away, and only a limited number may be present: after these, no more appear.',
  },
  'spawned-in-vain': {
    title: 'Pieces that are spawned when play is over',
    why: 'They appear on a screen where nothing is met, and every way on puts the level back, which takes them away again.',
  },
  'spawn-too-late': {
    title: 'Spawn that begins after play has ended',
    why: 'The first of these pieces comes when a countdown has already led away from every live screen.',
  },
  'grace-too-long': {
    title: 'Grace longer than the danger',
    why: 'After one hit, several more that could hit come and go without harm: the safest place is right after a hit.',
  },
  'timer-each-level': {
    title: 'Countdown that begins again with each level',
    why: 'A timer is kept for a level unless it says otherwise, so a fresh level winds it up again.',
  },
  'runs-from-start': {
    title: 'Timer that runs before anything starts it',
    why: 'A timer begins with what it is kept for, such as a level. A rule starts it for a while, and a condition expects it to run only then; but the condition also holds at the beginning.',
  },
  'level-asks-less': {
    title: 'Level that asks less than the one before',
    why: 'A goal usually grows from level to level; here it shrinks.',
  },
  'put-back-in-the-run': {
    title: 'Score or lives reset in the middle of a run',
    why: 'It is kept for less than a run, and a way that goes on with the run puts it back to its start: what was earned is gone, or what was lost is back.',
  },
  'best-of-one-run': {
    title: 'Best score that does not outlive the run',
    why: 'It takes the score when that is higher, and starts again with each run, as the score does: it never shows more than the score of one run.',
  },
  'best-adds-up': {
    title: 'Best score that adds up all scores',
    why: 'Its name says that it is the best, and each run adds its score to it: it holds the total of all runs. Or a rule waits for something to be more than it, and adds that to it, where it is to take its place.',
  },
  'best-stuck': {
    title: 'Best that can never be beaten',
    why: 'It takes a value only when that is lower, or only when that is higher, and it starts where that value can never be so: it keeps the value that it started with.',
  },
  'best-both-ways': {
    title: 'Best that is the higher here and the lower there',
    why: 'One place keeps the higher of the best and a value with max, and another the lower with min. Whichever comes last undoes what the other has kept.',
  },
  'goal-asked-twice': {
    title: 'Goal that two transitions ask for differently',
    why: 'From one screen, one transition asks for a goal to be reached, and another for more than the goal: at the goal itself, only the first of the two can be taken.',
  },
  'best-before-bonus': {
    title: 'Best score noted before the bonus',
    why: 'On one event, rules fire in the order of the file, and the effects of a rule in theirs: the best is taken from the score before what comes later adds to it.',
  },
  'undone-at-once': {
    title: 'Gain that is gone at once',
    why: 'Rules fire in the order of the file. One adds to a counter, and the next sets it to one number on the same event, so that nothing of what was added is left.',
  },
  'turned-back': {
    title: 'Change that the next rule turns back',
    why: 'Two rules on one event are to turn a counter from one value to the other and back. Rules see what those before them have changed, so the second fires as well, each time.',
  },
  'part-always-holds': {
    title: 'Condition that asks for nothing',
    why: 'The counter is kept within its min and its max, and every value that it can have fulfils the comparison.',
  },
  'lives-at-once': {
    title: 'Lives that all go at once',
    why: 'Whatever takes lives takes as many as there are at the start, so the first loss is the last and the number of lives means nothing.',
  },
  'stake-unnamed': {
    title: 'Counter that looks like the lives',
    why: 'Hits or misses take from it and a lost ending waits for it, but it is not called lives, so reports have no lives to count.',
  },
  'score-unnamed': {
    title: 'Counter that looks like the score',
    why: 'What is met raises it during a run, and its best is kept or an ending shows it, but it is not called score, so reports have no points to count.',
  },
  'pause-not-kept': {
    title: 'Pause that comes back fresh',
    why: 'The screen is entered from play by an input, and every way back to play makes a fresh start: who pauses loses what they had.',
  },
  'pause-ends-play': {
    title: 'Pause without a way back',
    why: 'The screen is called a pause and entered from play by an input, and all that it leads to is elsewhere: whoever pauses has left the run.',
  },
  'stays-in-vain': {
    title: 'Transition to the same screen that changes nothing',
    why: 'It starts nothing afresh, goes to no other level and has no effects, and nothing hears that its screen is entered. A restart needs fresh.',
  },
  'same-each-time': {
    title: 'Counter that is the same each time',
    why: 'One effect sets it to a number, and the next adds a number to it on the same event: it never counts up, and what waits for more waits in vain.',
  },
  'pause-gives-grace': {
    title: 'Pause that gives grace',
    why: 'Coming back from it gives a time in which nothing can hit, as often as the player likes to press it.',
  },
  'press-skips': {
    title: 'Screen that one press skips',
    why: 'The input that leads to this screen, or is used in play right before it, also leads away from it with no wait: a key that is held or pressed twice goes past it unread.',
  },
  'text-without-input': {
    title: 'Text that asks for a key nothing takes',
    why: 'The text of the screen asks the player to press something, and no transition or rule there hears an input.',
  },
  'word-unset': {
    title: 'Word that a counter never holds',
    why: 'The counter lists the word, rules or transitions set the counter, and none of them to that word: a choice that nobody can make.',
  },
  'key-in-vain': {
    title: 'Text that names a key which nothing hears',
    why: 'The text names inputs, and one of them is heard by no rule and no transition on its screen: a player who reads it presses in vain. Most often the name was changed in one place only.',
  },
  'price-told-wrong': {
    title: 'Price that is not what the text says',
    why: 'The text of the screen names a price, and the rules that take a payment there take another.',
  },
  'goal-told-wrong': {
    title: 'Goal that is not what the text says',
    why: 'The text tells a counter next to a number as if that were what is wanted, and every condition on the counter asks for another number.',
  },
  'way-on-untold': {
    title: 'Text that does not say how to go on',
    why: 'The text of the screen names inputs that rules hear there, and none of those that lead on: a player who reads it does not find the way.',
  },
  'goal-of-nothing': {
    title: 'Goal that is met from the start',
    why: 'On that level the goal is no more than the least that the counter can be, so what waits for it never waits.',
  },
  'endless-in-vain': {
    title: 'Levels without end that none comes to',
    why: 'The last level is endless, so that levels like it go on after it, and no transition goes to the next level.',
  },
  'timer-spent': {
    title: 'Timer that has ended and does not run again',
    why: 'Its end leads out of play, and the way back into play starts some things afresh, but not the timer, since it is kept for longer: it never ends again in that run.',
  },
  'timer-not-started': {
    title: 'Timer that only runs once, from the start',
    why: 'When it ends, a rule puts a counter back that another rule sets. Nothing starts the timer when that happens, so what is set later is never put back.',
  },
  'gone-unheard': {
    title: 'Piece that leaves without being heard',
    why: 'Nothing can happen to a piece while what it needs does not hold, and so a guest who cannot be served and has waited long enough is gone without an outcome: only NAME.gone is sent. A rule that counts those who were missed does not hear it.',
  },
  'never-picked': {
    title: 'Outcome that players never get',
    why: 'Simulated players pick among the outcomes of such a piece by weight, and this one has none. The last outcome is what happens when nobody meets the piece, and may well have no weight; any other never comes.',
  },
  'checkpoint-in-vain': {
    title: 'Checkpoint that nothing leads back to',
    why: 'A checkpoint on a course is where play goes on after a fall, and a fall is a transition with fresh: life. The design has none.',
  },
  'slowness-pays': {
    title: 'Bonus that grows as time runs out',
    why: 'What a success adds to the score gets larger as the countdown runs down: whoever waits is paid for it.',
  },
  'needed-not-taken': {
    title: 'Need that one piece takes from and another does not',
    why: 'Two pieces ask for the same before they can be met. The rule of one takes what it needs, the rule of the other leaves it, so that it is had for nothing.',
  },
  'word-stuck': {
    title: 'Word that nothing leads on from',
    why: 'The other words of the counter follow each other round and round, and from this one no rule and no transition sets another: until something begins afresh, it stays.',
  },
  'left-at-once': {
    title: 'Way back into play that leads out again',
    why: 'A press leads from a screen that stands still into play, and what play was left for still holds, as the shortest session shows: the player has paid for an offer to go on, or chosen it, and nothing comes of it.',
  },
  'never-used-up': {
    title: 'Goods that are never used up',
    why: 'It is had for a price and asked for by what is done with it, and nothing takes it: once there is enough of it, there is enough for good. Whoever pays for more gets nothing, and the price stops mattering.',
  },
  'pays-for-nothing': {
    title: 'Payment for what cannot grow any more',
    why: 'The rule takes its payment and adds to a counter that may be at its max already. The payment is gone then, and nothing comes of it.',
  },
  unpaid: {
    title: 'Price that nobody has to have',
    why: 'The rule takes from a counter and gives something for it. Where less is left than it takes, the counter stops at its min and the rule gives all the same: shots without ammunition, goods without money.',
  },
  'taken-for-nothing': {
    title: 'Piece that is gone for nothing',
    why: 'Meeting the piece takes it away, and the rule for it asks a price. Where that cannot be paid, the rule does nothing: the piece is gone, and the player has nothing for it.',
  },
  'put-back-on-leaving': {
    title: 'Purchase that is put back on leaving',
    why: 'The rule writes a counter on a screen from which every way out begins something afresh that puts the counter back, so what was bought there is gone before it can be used.',
  },
  'added-twice': {
    title: 'Counter that one event raises twice',
    why: 'Two rules hear the same event, without any condition, and add to the same counter. Most often the second was written without thinking of the first.',
  },
  'ending-after-ending': {
    title: 'Ending that leads to another',
    why: 'From an ending that is won the player comes to one that is lost, or the other way round. A run has one ending.',
  },
  'ending-unmarked': {
    title: 'Ending that is not called one',
    why: 'Play leads to this screen by itself, and every way on begins a fresh run, so a run is over there. As it is no ending, reports do not count such runs as ended, and no proof asks for it.',
  },
  'last-level-lost': {
    title: 'Last level that ends in a loss',
    why: 'What leads on from every other level leads, on the last, to an ending that is lost.',
  },
  'best-of-some-endings': {
    title: 'Best score that some endings forget',
    why: 'A rule or a list keeps the score of a run as one screen is entered, or a transition as it ends the run, and none does so as a run ends another way: a best run that ends there is forgotten.',
  },
  'failure-pays': {
    title: 'Failure that pays',
    why: 'The rule hears only that something was missed, and raises the score, what the score is multiplied with, or the lives, so missing is worth something.',
  },
  'text-too-brief': {
    title: 'Text that nobody can read in time',
    why: 'The screen is left by itself so soon that even a fast reader, at twelve words a second, has not read its text.',
  },
  'label-twice': {
    title: 'Label that two items share',
    why: 'Two items of the HUD have the same label on one screen and show different things, so players cannot tell which is which. Most often the second is a copy whose label was not changed.',
  },
  'icons-never-full': {
    title: 'Icons that are never all shown',
    why: 'The counter starts below its max and nothing raises it, so some of its icons stay empty for ever.',
  },
  'accepts-nothing': {
    title: 'Acceptance that no longer applies',
    why: 'The design accepts a finding that is not there, or not any more: what was meant to be so has changed.',
  },
  'no-screens': {
    title: 'Design without screens',
    why: 'A first design needs none; there is one live screen then.',
  },
  'no-ending': {
    title: 'Design without an ending',
    why: 'Without one a run never ends, and reports have nothing to count.',
  },
  'nothing-appears': {
    title: 'Design in which nothing appears',
    why: 'Simulated players meet what levels place, spawn or line up.',
  },
  'nothing-on-the-hud': {
    title: 'HUD that shows nothing',
    why: 'Touch it once, read the counter: the counter must be there to read.',
  },
};
