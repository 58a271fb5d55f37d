import { strike } from '../health.js';
import { nameFault } from '../language/names.js';
import type { Scope } from '../language/parse-expression.js';
import { type Piece, type Role, roles, traitsOf } from '../model.js';
import { isPlainMap } from '../problems/meant.js';
import { pieceSchema } from '../schema/things.js';
import type { Path } from '../text/source.js';
import { readNamed, soundKeys } from './named.js';
import { listed, type Reading, type Written, type WrittenInterval } from './reading.js';

/** Pieces in one chain of `like`. */
const longestChain = 64;

/** Milliseconds from appearance to arrival, and of an attempt, where a piece says nothing. */
const defaultLead = 2000;
const defaultTakes = 1000;
/** The same until a piece that was struck arrives again. */
const defaultReturn = 1000;

/** A piece whose expressions are still to be read, since they may name anything. */
export interface UnneededPiece
  extends Omit<
    Piece,
    'needs' | 'hasHealth' | 'outcomes' | 'difficulty' | 'takes' | 'lasts' | 'lead' | 'returns' | 'by'
  > {
  readonly outcomes: readonly {
    readonly name: string;
    readonly weight: Written<string | number> | undefined;
  }[];
  readonly needs: Written<string | boolean> | undefined;
  /** An event, of which it is looked at once all events are known. */
  readonly by: Written<string> | undefined;
  readonly difficulty: Written<string | number> | undefined;
  readonly takes: Written<string | number> | undefined;
  readonly lasts: Written<string | number> | undefined;
  readonly lead: Written<WrittenInterval> | undefined;
  readonly returns: Written<WrittenInterval> | undefined;
  readonly health: Written<string | number> | undefined;
}

export function readPieces(reading: Reading, section: unknown): UnneededPiece[] {
  // Of an entry that is wrong somewhere, what is right is kept, so that its events are still known.
  const written = readNamed(reading, section, 'pieces', 'piece', pieceSchema).map(({ entry, ...named }) => ({
    ...named,
    isWhole: entry !== undefined,
    entry: entry ?? soundKeys(pieceSchema, named.written),
  }));
  // What can happen to a piece follows from these; one of which they cannot be read is a problem already.
  for (const { name, written: as, isWhole, entry } of written) {
    const lacks = (key: 'is' | 'like' | 'outcomes'): boolean =>
      isPlainMap(as) && Object.hasOwn(as, key) && entry?.[key] === undefined;
    if (!isWhole && (['is', 'like', 'outcomes'] as const).some(lacks)) reading.doubtful.add(name);
  }
  const byName = new Map(written.map((each) => [each.name, each]));
  const inCircle = new Set<string>();
  let isChainTold = false;

  /** The chain of pieces that one is like, itself first; cut where it closes a circle. */
  function chain(name: string): string[] {
    const seen: string[] = [];
    for (
      let at: string | undefined = name;
      at !== undefined && byName.has(at);
      at = byName.get(at)?.entry?.like
    ) {
      if (seen.length === longestChain && !seen.includes(at)) {
        const what = 'The chain of pieces that are like each other';
        if (!isChainTold)
          reading.fail('too-large', { what, found: longestChain + 1, most: longestChain }, [
            'pieces',
            name,
            'like',
          ]);
        isChainTold = true;
        break;
      }
      if (seen.includes(at)) {
        if (!inCircle.has(at)) {
          const circle = seen.slice(seen.indexOf(at));
          for (const each of circle) inCircle.add(each);
          reading.fail('like-cycle', { chain: [...circle, at] }, ['pieces', at, 'like']);
        }
        break;
      }
      seen.push(at);
    }
    return seen;
  }

  const pieces = written.map(({ name, path, entry }): UnneededPiece => {
    if (entry?.like !== undefined) reading.known(entry.like, 'piece', byName, [...path, 'like']);
    const chained = chain(name).map((each) => byName.get(each)!);
    const first = <Value>(
      pick: (own: NonNullable<typeof entry>) => Value | undefined,
    ): Written<Value> | undefined => {
      for (const { entry: own, path: ownPath } of chained) {
        const value = own === undefined ? undefined : pick(own);
        if (value !== undefined) return { value, path: ownPath };
      }
      return undefined;
    };
    const role: Role = first((own) => own.is)?.value ?? 'collectible';
    if (
      entry !== undefined &&
      first((own) => own.is) === undefined &&
      chained.length < longestChain &&
      // What is wrong was told; a kind that is misspelt is not missing as well.
      chained.every(({ isWhole }) => isWhole) &&
      chained.every((each) => each.entry !== undefined && !inCircle.has(each.name))
    ) {
      const hasOutcomes = chained.some(({ entry: own }) => own?.outcomes !== undefined);
      reading.failAtKey('missing-role', { piece: name, hasOutcomes }, path);
    }
    // An empty list of groups leaves those of the pieces that it is like.
    const leaves = chained.findIndex(({ entry: own }) => own?.in?.length === 0);
    const groups = chained
      .slice(0, leaves < 0 ? undefined : leaves)
      .flatMap(({ entry: own, path: ownPath }) =>
        own?.in === undefined ? [] : listed(own.in, [...ownPath, 'in']),
      );
    /** What a key holds, and its own place. */
    const writtenAt = <
      Key extends 'needs' | 'difficulty' | 'takes' | 'lasts' | 'lead' | 'returns' | 'health',
    >(
      key: Key,
    ) => {
      const found = first((own) => own[key]);
      return found && { value: found.value as NonNullable<typeof found.value>, path: [...found.path, key] };
    };
    const ends = first((own) => own.ends);
    const { success: roleSuccess, failure, stays } = traitsOf(role);
    const own = first((each) => each.outcomes);
    const weights = own === undefined ? undefined : readWeights(reading, name, own);
    const health = writtenAt('health');
    const usual = health === undefined ? [roleSuccess, failure] : [strike, roleSuccess, failure];
    const outcomes = weights?.map((outcome) => outcome.name) ?? [...new Set(usual)];
    const clash = (key: string, other: string, reason: string): void =>
      reading.failAtKey('either-or', { keys: [key, other], where: `The piece ${name}`, reason }, path);
    const notHealth = (['outcomes', 'hits'] as const).find((key) => first((each) => each[key]) !== undefined);
    if (health !== undefined && notHealth !== undefined)
      clash('health', notHealth, 'its strikes and its success are the outcomes that it has');
    const by = first((each) => each.by);
    const notBy = (['hits', 'again'] as const).find(
      (key) => first((each) => each[key] || undefined) !== undefined,
    );
    if (by !== undefined && notBy !== undefined)
      clash('by', notBy, 'each event tries once, and what fails is no outcome');
    const meets = first((each) => each.meets)?.value ?? traitsOf(role).meets;
    if (first((each) => each.returns) !== undefined && meets !== 'arrives')
      clash('returns', `meets: ${meets}`, 'only what arrives comes again');
    const named = first((each) => each.success);
    if (named !== undefined)
      reading.known(named.value, 'outcome of this piece', outcomes, [...named.path, 'success']);
    const success =
      named?.value ??
      (health !== undefined ? strike : undefined) ??
      (outcomes.includes(roleSuccess) ? roleSuccess : undefined);
    const forSkill =
      first((each) => each.again || undefined) === undefined ? first((each) => each.hits) && 'hits' : 'again';
    if (own !== undefined && forSkill !== undefined)
      clash('outcomes', forSkill, 'it asks for success, and own outcomes know only weights');
    return {
      name,
      role,
      answersTo: [...new Set([name, ...groups.map((each) => each.name), role])],
      meets,
      difficulty: writtenAt('difficulty'),
      takes: writtenAt('takes'),
      lasts: writtenAt('lasts'),
      lead: writtenAt('lead'),
      returns: writtenAt('returns'),
      health,
      outcomes: weights ?? outcomes.map((outcome) => ({ name: outcome, weight: undefined })),
      by: by && { value: by.value, path: [...by.path, 'by'] },
      success,
      isSkilled:
        weights === undefined || (success !== undefined && first((each) => each.difficulty) !== undefined),
      hits: first((own) => own.hits)?.value ?? 1,
      again: first((own) => own.again)?.value ?? false,
      ends:
        ends === undefined
          ? outcomes.filter(
              (outcome) => !stays.includes(outcome) && (health === undefined || outcome !== strike),
            )
          : listed(ends.value, [...ends.path, 'ends']).flatMap(({ name: outcome, path: at }) =>
              reading.known(outcome, 'outcome of this piece', outcomes, at) ? [outcome] : [],
            ),
      staysOnCourse: role === 'hazard' && ends === undefined,
      needs: writtenAt('needs'),
      data: Object.assign({}, ...chained.map(({ entry: own }) => own?.data).reverse()),
      place: reading.source.keyPlaceOf(path),
    };
  });
  claimGroups(reading, written);
  return pieces;
}

/** Reads the expressions of pieces. */
export function readNeeds(
  reading: Reading,
  pieces: readonly UnneededPiece[],
  scope: Scope,
  grid: number,
): Piece[] {
  return pieces.map((piece): Piece => {
    const { needs, outcomes, difficulty, takes, lasts, lead, returns, by, health, ...rest } = piece;
    const usualReturn =
      health !== undefined && piece.meets === 'arrives'
        ? { least: defaultReturn, most: defaultReturn, grid }
        : undefined;
    return {
      ...rest,
      hasHealth: health !== undefined,
      by: by?.value,
      difficulty: difficulty === undefined ? 0 : reading.computed(difficulty.value, scope, difficulty.path),
      takes: takes === undefined ? defaultTakes : reading.computedDuration(takes.value, scope, takes.path),
      lasts: lasts && reading.computedDuration(lasts.value, scope, lasts.path),
      lead:
        lead === undefined
          ? { least: defaultLead, most: defaultLead, grid }
          : reading.timed(lead.value, grid, scope, lead.path),
      returns: returns === undefined ? usualReturn : reading.period(returns.value, grid, scope, returns.path),
      needs: needs && reading.expression(needs.value, scope, 'truth value', needs.path),
      outcomes: outcomes.map(({ name, weight }) => ({
        name,
        weight: weight && reading.expression(weight.value, scope, 'number', weight.path),
      })),
    };
  });
}

/** Words that judge an outcome, where how often it happens belongs. */
const goodWords: ReadonlySet<string> = new Set(['success', 'good', 'win', 'won']);
const judgements: ReadonlySet<string> = new Set([...goodWords, 'failure', 'bad', 'lose', 'lost', 'fail']);

function readWeights(
  reading: Reading,
  piece: string,
  { value, path }: { readonly value: Readonly<Record<string, number | string>>; readonly path: Path },
): UnneededPiece['outcomes'] {
  const at = [...path, 'outcomes'];
  const names = Object.keys(value);
  if (names.length === 0) {
    reading.fail(
      'empty-list',
      { what: `The map of outcomes of ${piece}`, remedy: 'Name at least one outcome, or leave the key out.' },
      at,
    );
  }
  return names.map((name) => {
    const fault = name === 'appeared' || name === 'gone' ? 'reserved-name' : nameFault(name);
    if (fault !== undefined) reading.failAtKey(fault, { name }, [...at, name]);
    const weight = value[name]!;
    const isJudged = judgements.has(String(weight)) && !reading.names.has(String(weight));
    if (!isJudged) return { name, weight: { value: weight, path: [...at, name] } };
    const tried = goodWords.has(String(weight)) ? `; that players try for it, success: ${name} says` : '';
    const expected = `how often it happens, such as ${name}: 1${tried}`;
    reading.fail('wrong-type', { found: `the text "${weight}"`, expected }, [...at, name]);
    return { name, weight: undefined };
  });
}

/** A group is named by the pieces in it; the first mention takes the name. */
function claimGroups(
  reading: Reading,
  written: readonly { path: Path; entry: { in?: string | string[] | undefined } | undefined }[],
): void {
  const groups = new Set<string>();
  for (const { path, entry } of written) {
    for (const { name, path: at } of listed(entry?.in ?? [], [...path, 'in'])) {
      if (Object.hasOwn(roles, name)) continue;
      if (!groups.has(name)) reading.claim(name, 'group', at);
      groups.add(name);
    }
  }
}
