import { withArticle } from '../language/names.js';
import { type Wording, worded } from './problem.js';
import type { ProblemDetails } from './problem-details.js';
import { eventRemedy, keyRemedy, list, nameRemedy, otherLines, stepFor } from './remedies.js';

/** Characters of a passage that a message quotes. */
const longestQuote = 200;

const quote = (text: string): string =>
  text.length <= longestQuote ? text : `${text.slice(0, longestQuote)}…`;

const sayWhatItIs =
  'Say what it is to the player: collectible (to take), hazard (to avoid), foe (to avoid or beat), checkpoint or exit (to reach), prop (none of these).';

/** The one place where a problem gets its words: what was found and what is allowed, then the remedy. */
const wording: Wording<ProblemDetails> = {
  'not-yaml': ({ reason, remedy }) => ({ message: `This cannot be read: ${reason}.`, remedy }),
  'empty-file': () => ({
    message: 'The file is empty.',
    remedy: 'A first design needs one counter, one piece and one rule.',
  }),
  'too-large': ({ what, found, most }) => ({
    message: `${what} has ${found} parts; at most ${most} are read.`,
    remedy: 'Split it, or write out fewer aliases.',
  }),
  'too-deep': ({ most }) => ({
    message: `Lists and maps stand inside each other here more than ${most} deep.`,
    remedy: 'A design needs no more than ten; take the brackets or the indentation out.',
  }),
  'bad-key': ({ found }) => ({
    message: `Found ${found} in the place of a key; a key is a name.`,
    remedy: 'Write the name, a colon, and what it holds.',
  }),
  'more-problems': ({ count }) => ({
    message: `${count} more ${count === 1 ? 'problem was' : 'problems were'} found and not listed.`,
    remedy: 'Mend these first.',
  }),
  'duplicate-key': ({ key, line, isBlock }) =>
    isBlock
      ? {
          message: `This is a second block "${key}:"; the first begins in line ${line}.`,
          remedy: 'Put these lines under the first, and take this key out.',
        }
      : {
          message: `${quote(key)} is given twice here; the first stands in line ${line}.`,
          remedy: 'Keep one of the two.',
        },
  'forbidden-key': ({ key }) => ({
    message: `"${key}" cannot be a key or a name: JavaScript keeps it for itself.`,
    remedy: 'Choose another name.',
  }),
  'split-by-comma': ({ quoted, isText }) => ({
    message: 'YAML ends a value at a comma inside { }, so this was read as two keys.',
    remedy: `Put the ${isText ? 'text' : 'expression'} in quotes: ${quote(quoted)}`,
  }),
  'nobody-met': ({ piece, event, staying }) => ({
    message:
      event === undefined
        ? `No ${piece} was met: what watches a condition hears of none.`
        : event.startsWith(`${piece}.`)
          ? `The ${piece} that was met is gone already: ${event} takes it away.`
          : `No ${piece} was met: ${event} needs one.`,
    remedy:
      staying.length === 0
        ? `Write oldest or a number, or let an outcome leave the ${piece} there, such as ends: [].`
        : `Hear ${staying.join(' or ')} alone, or write oldest or a number.`,
  }),
  'unquoted-colon': ({ found, quoted }) => ({
    message: `YAML takes what stands before a colon for a key, so "${quote(found)}" was not read as one value.`,
    remedy: `Put it in quotes: ${quote(quoted)}`,
  }),
  'taken-by-yaml': ({ mark, text }) => ({
    message: `YAML takes a leading ${mark} for itself, so "${quote(text)}" was not read as an expression.`,
    remedy: 'Put the whole expression in quotes, or write "not" and "and".',
  }),
  'unknown-key': (details) => ({
    message: `${details.where} has no key "${quote(details.key)}".`,
    remedy: details.instead === undefined ? keyRemedy(details) : `Write ${details.instead}.`,
  }),
  'missing-key': ({ key, where, purpose }) => ({
    message: `${where} lacks the key "${key}".`,
    remedy: purpose === undefined ? `Add ${key}.` : `Add ${key} (${purpose}).`,
  }),
  'missing-role': ({ piece, hasOutcomes }) => ({
    message: `The piece ${piece} lacks the key "is".`,
    remedy: hasOutcomes ? 'Add is: prop, since its own outcomes say what can become of it.' : sayWhatItIs,
  }),
  'wrong-type': ({ found, expected }) => ({
    message: `Found ${found}.`,
    remedy: `Write ${expected}.`,
  }),
  'not-a-role': ({ found, near }) => ({
    message: `"${quote(found)}" is no role.`,
    remedy: near === undefined ? sayWhatItIs : `Write ${near}.`,
  }),
  'unit-written': ({ found, seconds }) => ({
    message: `"${quote(found)}" has a unit; times are plain numbers of seconds.`,
    remedy: `Write ${seconds}.`,
  }),
  'not-a-share': ({ key, found }) => ({
    message: `${key} is ${found}, and this measures a share, which is between 0 and 1.`,
    remedy:
      found > 1 && found <= 100
        ? `Write ${Number((found / 100).toPrecision(12))} for ${found} %.`
        : 'Choose a number from 0 to 1.',
  }),
  'time-as-event': ({ found, seconds, repeats }) => ({
    message: `"${quote(found)}" is a time, and when takes an event.`,
    remedy: repeats
      ? `Add a timer, such as timers: { beat: { every: ${seconds} } }, and write when: beat.ticked.`
      : `Add a timer, such as timers: { dusk: { after: ${seconds} } }, and write when: dusk.ended.`,
  }),
  'condition-as-event': ({ found }) => {
    const message = `"${quote(found)}" is a condition, and when takes an event.`;
    const equal = quote(found.replace(/(?<![<>=!])=(?!=)/, '=='));
    const [, event, condition] = /^([a-z]\w*\.\w+) (?:and|&&) (.+)$/i.exec(equal) ?? [];
    return event === undefined
      ? { message, remedy: `Write it as if: ${equal}` }
      : { message, remedy: `Write when: ${event} and if: ${condition}` };
  },
  'change-outside-do': ({ counter, amount, where }) => ({
    message: `${where} changes ${counter} outside its list of effects.`,
    remedy: `Write do: [{ add: { ${counter}: ${amount} } }] to add, or do: [{ set: { ${counter}: ${amount} } }] to set it.`,
  }),
  'bad-name': ({ name }) => ({
    message: `"${quote(name)}" is not a name: a name is a letter, then letters, digits and _, 64 at most.`,
    remedy: 'Choose a name of that form.',
  }),
  'reserved-name': ({ name, instead }) => ({
    message: `"${name}" is a word of the language and cannot be a name.`,
    remedy: instead === undefined ? 'Choose another name.' : `Write ${instead}.`,
  }),
  'name-clash': ({ name, first, second, line }) => ({
    message: `"${name}" is a ${second} here and already a ${first} at line ${line}; all share one space of names.`,
    remedy: 'Rename one of them.',
  }),
  'unknown-name': (details) => ({
    message:
      details.is === undefined
        ? `There is no ${details.kind} "${quote(details.name)}".`
        : `"${quote(details.name)}" is ${withArticle(details.is)}; ${withArticle(details.kind)} is needed here.`,
    remedy: nameRemedy(details) + otherLines(details.also),
  }),
  'unknown-event': (details) => ({
    message: `Nothing can send the event "${quote(details.event)}".`,
    remedy: eventRemedy(details) + otherLines(details.also),
  }),
  'like-cycle': ({ chain }) => ({
    message: `These pieces are like each other in a circle: ${quote(chain.join(' -> '))}.`,
    remedy: 'One of them must be written out in full.',
  }),
  'empty-list': ({ what, remedy }) => ({ message: `${what} is empty.`, remedy }),
  'not-milliseconds': ({ seconds }) => ({
    message: `${seconds} s is not a whole number of milliseconds.`,
    remedy: `Write ${Math.round(seconds * 1000) / 1000}.`,
  }),
  'off-grid': ({ least, most, grid }) => ({
    message: `Random intervals fall on a grid of ${grid} s, which does not divide the range from ${least} to ${most}.`,
    remedy: 'Choose other ends, or give the design a finer grid, such as grid: 0.05.',
  }),
  'watches-a-timer': ({ timer }) => ({
    message: `timer.${timer} changes all the time, so a condition alone cannot watch it.`,
    remedy: `Add a when that says at which event to look, such as when: ${timer}.ended.`,
  }),
  'icons-without-max': ({ counter, most }) => ({
    message: `${counter} has no max of ${most} or less, so there is no number of icons to show.`,
    remedy: `Give ${counter} a max, or show it as digits.`,
  }),
  'bar-without-max': ({ counter }) => ({
    message: `${counter} has no max of its own, so a bar has no full length.`,
    remedy: `Give a counter a max, or a timer a fixed length; or show ${counter} as digits.`,
  }),
  'out-of-range': ({ what, found, from, to }) => ({
    message: `${what} is ${found}; allowed is ${from} to ${to}.`,
    remedy: 'Choose a number in that range.',
  }),
  'bad-order': ({ what, from, to }) => ({
    message: `${what} goes from ${from} to ${to}, which is backwards.`,
    remedy: 'Write the smaller number first.',
  }),
  'bad-expression': ({ text, reason, remedy }) => ({
    message: `The expression "${quote(text)}" cannot be read: ${reason}.`,
    remedy,
  }),
  'wrong-value-type': ({ text, found, expected, remedy }) => ({
    message: `"${quote(text)}" gives a ${found} where a ${expected} is needed.`,
    remedy,
  }),
  'missing-level-value': ({ value, levels }) => ({
    message: `level.${value} is read, but these levels do not give it: ${list(levels)}.`,
    remedy: `Add ${value} to the values of each level.`,
  }),
  'either-or': ({ keys, where, reason }) => ({
    message: `${where} has both ${keys.join(' and ')}: ${reason}.`,
    remedy: 'Keep one of them.',
  }),
  'needs-one-of': ({ keys, where }) => ({
    message: `${where} has none of ${list(keys)}.`,
    remedy: 'Add one of them.',
  }),
  'endless-not-last': ({ level }) => ({
    message: `${level} goes on without end, so no level after it is ever reached.`,
    remedy: 'Let only the last level be endless.',
  }),
  'back-changes-nothing': ({ keys }) => ({
    message: `A transition back changes nothing at all, so it cannot have ${keys.join(' or ')}.`,
    remedy: 'Take the key out, or name the screen to go to.',
  }),
  'not-a-number': ({ counter }) => ({
    message: `${counter} holds no number, so nothing can be added to it or paid from it.`,
    remedy: `Write set: { ${counter}: ... }.`,
  }),
  'pay-first': ({ lowered }) => ({
    message: 'A pay stands first in its list, since nothing of the list happens where it cannot be afforded.',
    remedy: `Move it to the front; one pay may name several counters.${lowered === undefined ? '' : ` To lower it as far as its min instead, write ${lowered}.`}`,
  }),
  'not-your-event': ({ event, owner }) => ({
    message: `The event ${event} belongs to the ${owner}; a rule cannot emit it.`,
    remedy: 'Emit an event of your own, such as comb.full.',
  }),
  'start-order': ({ counter, key, reads }) => ({
    message: `The ${key} of ${counter} reads ${reads}, which is put back only after it.`,
    remedy: `Write ${reads} above ${counter}.`,
  }),
  'bad-step': ({ found }) => ({
    message: `A test cannot do "${quote(found)}".`,
    remedy:
      stepFor(found) ??
      'Write what a game or a player can do, such as blossom.taken, 3 x blossom.taken or input.start; wasp.hit as w1 touches one piece until end w1; wait 2 lets time pass; { expect: { ... } }.',
  }),
};

export const problem = worded(wording);
