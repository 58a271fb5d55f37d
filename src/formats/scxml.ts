import { XMLBuilder } from 'fast-xml-parser';
import type { Expression } from '../design/language/expression.js';
import { showExpression } from '../design/language/expression-parts.js';
import type { Computed, Design, Transition } from '../design/model.js';
import type { Exploration } from '../explore/explore.js';
import { printable } from './characters.js';

/**
 * The flow of a design as W3C SCXML (2015): a state for each screen, its transitions with their events, conditions and waits.
 * Counters are declared with their starts; what rules do to them is left out. A verdict is an attribute of our own namespace.
 */
export function flowToScxml(design: Design, { transitions: verdicts }: Exploration): string {
  const states = design.screens.map(({ name, ending, live }) => {
    const own = design.transitions.flatMap((transition, at) =>
      transition.from === name ? [{ transition, at }] : [],
    );
    const waits = [...new Set(own.map(({ transition }) => transition.wait))].filter((wait) => wait !== 0);
    return {
      '@_id': name,
      '@_jocus:kind': ending ?? (live ? 'live' : 'menu'),
      ...(waits.length === 0
        ? {}
        : {
            onentry: {
              send: waits.map((wait) => ({
                '@_event': waitEvent(wait),
                ...(typeof wait === 'number'
                  ? { '@_delay': `${wait / 1000}s` }
                  : { '@_delayexpr': `(${inEcmascript(wait)}) + 's'` }),
              })),
            },
          }),
      transition: own.flatMap(({ transition, at }) => waysOf(design, transition, verdicts[at]!.verdict)),
    };
  });
  const builder = new XMLBuilder({ ignoreAttributes: false, format: true, suppressEmptyNode: true });
  return builder.build({
    '?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
    scxml: {
      '@_xmlns': 'http://www.w3.org/2005/07/scxml',
      '@_xmlns:jocus': 'urn:jocus',
      '@_version': '1.0',
      '@_datamodel': 'ecmascript',
      '@_name': printable(design.title),
      '@_initial': design.screens[0]!.name,
      datamodel: {
        data: [
          ...design.counters.map(({ name, start }) => ({
            '@_id': name.replace('.', '_'),
            '@_expr': inEcmascript(start),
          })),
          ...(design.transitions.some(({ to }) => to === 'back')
            ? [{ '@_id': backVariable, '@_expr': "''" }]
            : []),
        ],
      },
      state: states,
    },
  });
}

/** Our three words are ECMAScript's operators; no name can be one of them. */
const inEcmascript = (expression: Expression): string =>
  showExpression(expression)
    .replace(/\band\b/g, '&&')
    .replace(/\bor\b/g, '||')
    .replace(/\bnot /g, '!')
    .replace(/\bhealth\.(?=\w)/g, 'health_');

const backVariable = 'enteredFrom';
/** An event's name has no blanks and no marks. */
const waitEvent = (wait: Computed): string =>
  `wait.${typeof wait === 'number' ? wait : showExpression(wait).replace(/[^\w]+/g, '_')}`;

/** The SCXML transitions of one of ours: one, or one for each screen that `back` may lead to. */
function waysOf(design: Design, transition: Transition, verdict: string): object[] {
  const { from, to, heard, events, condition, wait } = transition;
  // An event that a wait holds back counts only from then on, which the flow alone cannot say: it is told by the event.
  const trigger = heard.length > 0 ? events.join(' ') : wait === 0 ? undefined : waitEvent(wait);
  const own = condition === undefined ? [] : [inEcmascript(condition)];
  const common = {
    ...(trigger === undefined ? {} : { '@_event': trigger }),
    '@_jocus:verdict': verdict,
  };
  const leadsBack = design.transitions.some((each) => each.from === to && each.to === 'back');
  const remember = leadsBack ? { assign: { '@_location': backVariable, '@_expr': `'${from}'` } } : {};
  const withCondition = (conditions: readonly string[]): object =>
    conditions.length === 0 ? {} : { '@_cond': conditions.map((each) => `(${each})`).join(' && ') };
  if (to !== 'back') return [{ ...common, ...withCondition(own), '@_target': to, ...remember }];
  const sources = new Set(design.transitions.filter((each) => each.to === from).map((each) => each.from));
  return [...sources].map((source) => ({
    ...common,
    ...withCondition([...own, `${backVariable} === '${source}'`]),
    '@_target': source,
  }));
}
