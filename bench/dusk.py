"""Dusk on the Heath as a designer would write it down in Python to see how it plays: plain objects, the random module.

It follows the same rules and players as the design; it keeps scores, lengths and endings, and no intervals.
Run: python3 bench/dusk.py [sessions]
"""

import math
import random
import sys
import time

QUOTAS = [12, 16, 20]
SPAWNS = [
    [("blossom", (0.5, 1.5), None, 6, None), ("wasp", (6, 6), 4, 3, None)],
    [("blossom", (1, 2), None, 4, None), ("foxglove", (1.5, 3), 1, 3, None), ("wasp", (4, 6), 3, 3, None),
     ("royalJelly", (20, 20), 15, 1, 2)],
    [("blossom", (1, 2), None, 4, None), ("foxglove", (1, 2.5), 1, 4, None), ("wasp", (2.5, 4.5), 3, 4, None),
     ("royalJelly", (25, 25), 20, 1, 1)],
]
DIFFICULTY = {"blossom": -0.5, "foxglove": 0.6, "royalJelly": 1.2, "wasp": -0.6}
TAKES = {"blossom": 0.8, "foxglove": 1.2, "royalJelly": 1.0}
LASTS = {"blossom": 4, "foxglove": 4, "royalJelly": 3}
PLAYERS = {"newcomer": (-0.3, 1.3, 2), "regular": (0.5, 1.0, 3), "veteran": (1.2, 0.9, 4)}


class Spawn:
    def __init__(self, piece, every, first, at_once, total):
        self.piece, self.every, self.at_once, self.total = piece, every, at_once, total
        self.made = 0
        self.due = first if first is not None else random.uniform(*every)


class Run:
    def __init__(self, skill, pace):
        self.skill, self.pace = skill, pace
        self.score, self.lives, self.length = 0, 3, 0.0

    def succeeds(self, piece):
        return random.random() < 1 / (1 + math.exp(DIFFICULTY[piece] - self.skill))

    def level(self, number):
        now, nectar, streak, grace = 0.0, 0, 1, 0.0
        waiting = [["blossom", 4.0], ["blossom", 4.0]] if number == 0 else []
        wasps, present = [], {"blossom": len(waiting), "foxglove": 0, "royalJelly": 0, "wasp": 0}
        spawns = [Spawn(*each) for each in SPAWNS[number]]
        attempt = None
        while True:
            if attempt is None and waiting:
                piece, _ = waiting.pop(0)
                attempt = (piece, now + TAKES[piece] * self.pace)
            spawn = min(spawns, key=lambda each: each.due)
            moments = [(45.0, "dusk"), (spawn.due, "spawn")]
            if wasps:
                moments.append((min(wasps), "wasp"))
            if attempt is not None:
                moments.append((attempt[1], "attempt"))
            if waiting:
                moments.append((min(each[1] for each in waiting), "wither"))
            now, what = min(moments, key=lambda each: each[0])
            if what == "dusk":
                self.length += now
                return "dark"
            if what == "spawn":
                appears = present[spawn.piece] < spawn.at_once
                if appears:
                    spawn.made += 1
                    present[spawn.piece] += 1
                    if spawn.piece == "wasp":
                        wasps.append(now + random.uniform(1, 2))
                    else:
                        waiting.append([spawn.piece, now + LASTS[spawn.piece]])
                done = spawn.total is not None and spawn.made >= spawn.total
                spawn.due = math.inf if done else now + random.uniform(*spawn.every)
            elif what == "wasp":
                wasps.remove(now)
                present["wasp"] -= 1
                if not self.succeeds("wasp") and now >= grace:
                    self.lives -= 1
                    streak, grace = 1, now + 1
                    if self.lives == 0:
                        self.length += now
                        return "dark"
            elif what == "wither":
                gone = min(waiting, key=lambda each: each[1])
                waiting.remove(gone)
                present[gone[0]] -= 1
                if gone[0] != "royalJelly":
                    streak = 1
            else:
                piece, attempt = attempt[0], None
                present[piece] -= 1
                if not self.succeeds(piece):
                    if piece != "royalJelly":
                        streak = 1
                elif piece == "royalJelly":
                    self.lives = min(5, self.lives + 1)
                else:
                    self.score += (20 if piece == "foxglove" else 10) * streak
                    streak = min(5, streak + 1)
                    nectar += 1
                    if nectar >= QUOTAS[number]:
                        self.score += 2 * math.floor(45 - now)
                        self.length += now
                        return "nightfall" if number == 2 else None

    def play(self):
        for number in range(3):
            ending = self.level(number)
            if ending is not None:
                return ending
            self.length += 2
        return "nightfall"


def main():
    sessions = int(sys.argv[1]) if len(sys.argv) > 1 else 300
    random.seed(1)
    start = time.perf_counter()
    for name, (skill, pace, runs) in PLAYERS.items():
        scores, won = [], 0
        for _ in range(sessions):
            for _ in range(runs):
                run = Run(skill, pace)
                won += run.play() == "nightfall"
                scores.append(run.score)
        scores.sort()
        print(f"{name:10} median score {scores[len(scores) // 2]:6} won {100 * won / len(scores):5.1f} %", file=sys.stderr)
    print((sessions * len(PLAYERS)) / (time.perf_counter() - start))


if __name__ == "__main__":
    main()
