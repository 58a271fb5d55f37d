import { type Flat, flatten } from './flatten.js';
import type { Program } from './representation.js';

/** What a program can call while it runs: draws, faults, and whoever listens. */
export type Surroundings = Readonly<Record<string, object | undefined>>;

const flattened = new WeakMap<Program, Flat>();

/**
 * Runs the functions of a program by one loop over numbers: for pages whose content security policy forbids code made from text.
 *
 * @param memory gives room for so many numbers, of which the first are the program's slots
 * @param draw a draw of a place that has been asked so often before
 */
export function interpreter(
  program: Program,
  memory: Float64Array,
  draw: (place: number, asked: number) => number,
  around: Surroundings,
): Readonly<Record<string, (...given: number[]) => number>> {
  const flat = flatOf(program);
  const { code, hosts, functions, result } = flat;
  memory.set(flat.constants, program.slots);
  const calls = hosts.map((name) => {
    const [on, what] = name.split('.') as [string, string];
    const object = around[on] as Record<string, (...given: number[]) => void>;
    return object[what]!.bind(object);
  });
  const queue: number[] = [];
  const returns = new Int32Array(16);
  const { asked } = program;
  let head = 0;
  let tail = 0;
  let depth = 0;

  function run(entry: number): void {
    const m = memory;
    // Whoever is told something may ask for a value meanwhile, which runs a function of its own.
    const outermost = depth;
    let pc = entry;
    for (;;) {
      const a = code[pc + 1]!;
      const b = code[pc + 2]!;
      const c = code[pc + 3]!;
      switch (code[pc]) {
        case 0: // copy
          m[a] = m[b]!;
          break;
        case 1: // +
          m[a] = m[b]! + m[c]!;
          break;
        case 2: // -
          m[a] = m[b]! - m[c]!;
          break;
        case 3: // *
          m[a] = m[b]! * m[c]!;
          break;
        case 4: // /
          m[a] = m[b]! / m[c]!;
          break;
        case 5: // %
          m[a] = m[b]! % m[c]!;
          break;
        case 6: // jump
          pc = a;
          continue;
        case 7: // unless
          if (m[a] === 0) {
            pc = b;
            continue;
          }
          break;
        case 8: // provided
          if (m[a] !== 0) {
            pc = b;
            continue;
          }
          break;
        case 9: // unless <
          if (!(m[a]! < m[b]!)) {
            pc = c;
            continue;
          }
          break;
        case 10: // unless <=
          if (!(m[a]! <= m[b]!)) {
            pc = c;
            continue;
          }
          break;
        case 11: // unless ==
          if (m[a] !== m[b]) {
            pc = c;
            continue;
          }
          break;
        case 12: // provided <
          if (m[a]! < m[b]!) {
            pc = c;
            continue;
          }
          break;
        case 13: // provided <=
          if (m[a]! <= m[b]!) {
            pc = c;
            continue;
          }
          break;
        case 14: // provided ==
          if (m[a] === m[b]) {
            pc = c;
            continue;
          }
          break;
        case 15: // bit or
          m[a] = m[b]! | m[c]!;
          break;
        case 16: // bit and
          m[a] = m[b]! & m[c]!;
          break;
        case 17: // shift left
          m[a] = m[b]! << m[c]!;
          break;
        case 18: // shift right
          m[a] = m[b]! >> m[c]!;
          break;
        case 19: // negative
          m[a] = -m[b]!;
          break;
        case 20: // min
          m[a] = Math.min(m[b]!, m[c]!);
          break;
        case 21: // max
          m[a] = Math.max(m[b]!, m[c]!);
          break;
        case 22: // abs
          m[a] = Math.abs(m[b]!);
          break;
        case 23: // floor
          m[a] = Math.floor(m[b]!);
          break;
        case 24: // ceil
          m[a] = Math.ceil(m[b]!);
          break;
        case 25: // round
          m[a] = Math.round(m[b]!) + 0;
          break;
        case 26: // load
          m[a] = m[b + m[c]!]!;
          break;
        case 27: // store
          m[a + m[b]!] = m[c]!;
          break;
        case 28: {
          // switch
          const at = m[a]! - b;
          // Past the cases stands where to go for any other value.
          pc = code[pc + 4 + (at >= 0 && at < c ? at : c)]!;
          continue;
        }
        case 29: {
          // draw
          const place = m[b]!;
          m[a] = draw(place, m[asked + place]!++);
          break;
        }
        case 30: // push
          queue[tail++] = m[a]!;
          break;
        case 31: // pop
          m[a] = queue[head++]!;
          break;
        case 32: // unless pending
          if (head === tail) {
            pc = a;
            continue;
          }
          break;
        case 33: // rewind
          head = tail = 0;
          break;
        case 34: {
          // tell
          const call = calls[a]!;
          if (c === 1) call(m[b]!);
          else if (c === 0) call();
          else call(...m.subarray(b, b + c));
          break;
        }
        case 35: // call
          returns[depth++] = pc + 4;
          pc = a;
          continue;
        case 36: // return
          if (depth === outermost) return;
          pc = returns[--depth]!;
          continue;
      }
      pc += 4;
    }
  }

  return Object.fromEntries(
    [...functions].map(([name, { entry, parameters }]) => [
      name,
      (...given: number[]): number => {
        for (let index = 0; index < parameters.length; index++) memory[parameters[index]!] = given[index]!;
        const before = depth;
        try {
          run(entry);
        } catch (error) {
          head = tail = 0;
          depth = before;
          throw error;
        }
        return memory[result]!;
      },
    ]),
  );
}

/** Numbers that a program needs room for. */
export const memoryOf = (program: Program): number => flatOf(program).size;

function flatOf(program: Program): Flat {
  const known = flattened.get(program);
  if (known !== undefined) return known;
  const made = flatten(program);
  flattened.set(program, made);
  return made;
}
