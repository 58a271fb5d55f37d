import type { Design, Keep } from '../design/model.js';
import type { Place } from '../design/problems/problem.js';
import type { Change } from '../design/text/change.js';
import type { Finding } from './finding.js';
import type { FindingDetails } from './finding-catalogue.js';
import { writtenRules } from './uses.js';

/** The change of a design's text that does what a finding advises, where that is mechanical; undefined where somebody has to think. */
export function mendOf(
  design: Design,
  found: Pick<Finding, 'code' | 'details' | 'place'>,
): Change | undefined {
  const details = found.details as Partial<
    FindingDetails['counter-unshown'] &
      FindingDetails['no-way-back'] &
      FindingDetails['countdown-unshown'] &
      FindingDetails['outlives-the-run'] &
      FindingDetails['unused'] &
      FindingDetails['put-back-on-leaving'] &
      FindingDetails['taken-for-nothing'] &
      FindingDetails['in-milliseconds'] &
      FindingDetails['passed-by'] &
      FindingDetails['met-by-nobody'] &
      FindingDetails['pause-is-live'] &
      FindingDetails['gone-unheard'] &
      FindingDetails['never-picked'] &
      FindingDetails['ending-named-otherwise'] &
      FindingDetails['pressed-in-vain'] &
      FindingDetails['delivered-once'] &
      FindingDetails['rule-deaf']
  >;
  switch (found.code) {
    case 'counter-unshown':
    case 'counter-unread':
      return show(details.counter);
    case 'countdown-unshown':
      return show(details.timer);
    case 'nothing-on-the-hud':
      return show(design.score ?? design.counters[0]?.name);
    case 'unused':
      return details.kind === 'level value'
        ? undefined
        : { kind: 'remove', path: [`${details.kind}s`, details.name!] };
    case 'no-way-back': {
      const { ending: from, target: to } = details;
      return { kind: 'add', path: ['transitions'], value: { from, to, when: 'input.again', fresh: 'run' } };
    }
    case 'pause-ends-play':
      return {
        kind: 'add',
        path: ['transitions'],
        value: { from: details.screen, to: 'back', when: 'input.resume' },
      };
    case 'gone-unheard': {
      const rule = writtenRules(design).findIndex(({ events }) => events.includes(details.event!));
      if (rule < 0) return undefined;
      const when = [...writtenRules(design)[rule]!.heard, `${details.piece}.gone`];
      return { kind: 'set', path: ['rules', rule, 'when'], value: when };
    }
    case 'never-picked':
      return { kind: 'set', path: ['pieces', details.piece!, 'outcomes', details.outcome!], value: 1 };
    case 'residue':
      return freshOn(design, found.place, 'run');
    case 'level-not-fresh':
      return freshOn(design, found.place, 'level');
    case 'best-of-one-run':
      return keepFor(design, details.counter!, 'forever');
    case 'goal-carried-over':
      // A score that each level puts back would be another mistake.
      return details.counter === design.score ? undefined : keepFor(design, details.counter!, 'level');
    case 'put-back-on-leaving':
      return keepFor(design, details.counter!, details.longer!);
    case 'taken-for-nothing':
      return { kind: 'set', path: ['pieces', details.piece!, 'needs'], value: details.needs };
    case 'met-by-nobody':
      return { kind: 'set', path: ['pieces', details.piece!, 'meets'], value: 'sought' };
    case 'in-milliseconds':
      return details.path && { kind: 'set', path: [...details.path], value: details.seconds! / 1000 };
    case 'pause-is-live':
      return { kind: 'remove', path: ['screens', details.screen!, 'live'] };
    case 'ending-named-otherwise':
      return {
        kind: 'set',
        path: ['screens', details.screen!, 'ending'],
        value: details.ending === 'won' ? 'lost' : 'won',
      };
    case 'delivered-once':
      return {
        kind: 'set',
        path: ['pieces', details.piece!],
        value: asPlace(design, details.piece!, details.reached!),
      };
    case 'pressed-in-vain':
      return { kind: 'remove', path: ['players', details.player!, 'acts', details.input!] };
    case 'passed-by':
    case 'left-between':
      return { kind: 'set', path: [...details.path!], value: details.condition };
    case 'outlives-the-run':
      return keepFor(design, details.what!, 'run');
    case 'stake-unnamed':
      return { kind: 'set', path: ['lives'], value: details.counter };
    case 'score-unnamed':
      return { kind: 'set', path: ['score'], value: details.counter };
    case 'rule-deaf': {
      const needs = details.needs!;
      const { line, column } = found.place;
      const rule = writtenRules(design).findIndex(
        ({ place }) => place.line === line && place.column === column,
      );
      return needs.length === 0 || rule < 0
        ? undefined
        : { kind: 'set', path: ['rules', rule, 'screens'], value: needs.length === 1 ? needs[0] : needs };
    }
    default:
      return undefined;
  }
}

function freshOn({ transitions }: Design, { line }: Place, span: Keep): Change | undefined {
  const transition = transitions.find(({ place }) => place.line === line);
  return transition && { kind: 'set', path: ['transitions', transition.index, 'fresh'], value: span };
}

/** How long a counter or a timer is kept; a counter that is written as its start alone gets keys. */
function keepFor({ counters, written }: Design, name: string, span: Keep): Change {
  const section = counters.some((counter) => counter.name === name) ? 'counters' : 'timers';
  const start = (written[section] as { readonly [name: string]: unknown } | undefined)?.[name];
  return typeof start === 'object' || start === undefined
    ? { kind: 'set', path: [section, name, 'keep'], value: span }
    : { kind: 'set', path: [section, name], value: { start, keep: span } };
}

const show = (name: string | undefined): Change | undefined =>
  name === undefined ? undefined : { kind: 'add', path: ['hud'], value: { show: name } };

/** A piece as it is written, but a place that players come back to; its difficulty would decide nothing. */
function asPlace({ written }: Design, piece: string, reached: string): unknown {
  const { difficulty, ...own } = (written.pieces as Record<string, Record<string, unknown>>)[piece]!;
  return { ...own, is: 'prop', meets: 'sought', outcomes: { [reached.split('.')[1]!]: 1 }, ends: [] };
}
