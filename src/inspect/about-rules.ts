import type { Design } from '../design/model.js';
import { type Finding, finding } from './finding.js';
import type { Uses } from './uses.js';

/** Findings about what rules and pieces have to do with each other. */
export function aboutRules(design: Design, { heard }: Uses): Finding[] {
  return [...deafRules(design), ...unheardEvents(design, heard), ...aboutPieces(design)];
}

/** Rules whose event cannot happen on any of their screens. */
function deafRules(design: Design): Finding[] {
  return design.rules.flatMap(({ name, events, screens, place }) => {
    const canHappen = (event: string): boolean => {
      const [subject] = event.split('.') as [string];
      const timer = design.timers.find((each) => each.name === subject);
      if (timer !== undefined) return screens.some((screen) => timer.screens.includes(screen));
      // Pieces that a rule or a level makes appear may be told anywhere.
      if (!design.pieces.some((piece) => piece.name === subject) || event.endsWith('.appeared')) return true;
      return design.screens.some((screen) => screen.live && screens.includes(screen.name));
    };
    if (events.length === 0 || events.some(canHappen)) return [];
    return [finding('rule-deaf', { rule: name, event: events[0]!, screens: screens.join(', ') }, place)];
  });
}

function unheardEvents(design: Design, heard: ReadonlySet<string>): Finding[] {
  const told = new Set<string>();
  return [...design.rules, ...design.transitions].flatMap(({ effects, place }) =>
    effects.flatMap((effect) => {
      if (effect.kind !== 'emit' || heard.has(effect.name) || told.has(effect.name)) return [];
      told.add(effect.name);
      return [finding('event-unheard', { event: effect.name }, place)];
    }),
  );
}

function aboutPieces(design: Design): Finding[] {
  const made = new Set([
    ...design.levels.flatMap(({ placed, spawns, course }) => [
      ...placed.map(({ piece }) => piece),
      ...spawns.map(({ piece }) => piece),
      ...course,
    ]),
    ...[...design.rules, ...design.transitions].flatMap(({ effects }) =>
      effects.flatMap((effect) =>
        effect.kind === 'spawn'
          ? effect.pieces.map(({ piece }) => piece)
          : effect.kind === 'become'
            ? effect.changes.map(({ to }) => to)
            : [],
      ),
    ),
  ]);
  const inLevels = design.levels.some(
    ({ placed, spawns, course }) => placed.length + spawns.length + course.length > 0,
  );
  return design.pieces.flatMap(({ name, role, meets, outcomes, place }): Finding[] => {
    const isHeard = [...design.rules, ...design.transitions].some(({ events }) =>
      events.some((event) => event.startsWith(`${name}.`)),
    );
    const likely = outcomes.at(meets === 'arrives' ? -1 : 0)!.name;
    return [
      ...(isHeard || role === 'prop'
        ? []
        : [finding('piece-unheard', { piece: name, event: `${name}.${likely}` }, place)]),
      ...(inLevels && !made.has(name) ? [finding('piece-nowhere', { piece: name }, place)] : []),
    ];
  });
}
