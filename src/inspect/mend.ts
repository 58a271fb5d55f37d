import type { Design } from '../design/model.js';
import type { Change } from '../design/text/change.js';
import type { Finding } from './finding.js';
import type { FindingDetails } from './finding-catalogue.js';

/** The change of a design's text that does what a finding advises, where that is mechanical; undefined where somebody has to think. */
export function mendOf(
  design: Design,
  found: Pick<Finding, 'code' | 'details' | 'place'>,
): Change | undefined {
  const details = found.details as Partial<
    FindingDetails['counter-unshown'] & FindingDetails['no-way-back'] & FindingDetails['countdown-unshown']
  >;
  switch (found.code) {
    case 'counter-unshown':
    case 'counter-unread':
      return show(details.counter);
    case 'countdown-unshown':
      return show(details.timer);
    case 'nothing-on-the-hud':
      return show(design.score ?? design.counters[0]?.name);
    case 'no-way-back': {
      const { ending: from, target: to } = details;
      return { kind: 'add', path: ['transitions'], value: { from, to, when: 'input.again', fresh: 'run' } };
    }
    case 'residue': {
      const back = design.transitions.find(({ place }) => place.line === found.place.line);
      return back && { kind: 'set', path: ['transitions', back.index, 'fresh'], value: 'run' };
    }
    default:
      return undefined;
  }
}

const show = (name: string | undefined): Change | undefined =>
  name === undefined ? undefined : { kind: 'add', path: ['hud'], value: { show: name } };
