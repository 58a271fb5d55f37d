import type { Design } from '../../design/model.js';
import { type Finding, finding } from '../finding.js';
import { hearsOn, isInput, plainText } from '../uses.js';

/** Findings about what the texts of screens ask the player to press. */
export function aboutTexts(design: Design): Finding[] {
  return [...textsWithoutInput(design), ...waysOnUntold(design)];
}

/** Words with which a text asks for a key. */
const asksForInput =
  /\b(?:press|tap|click|hit|push)\s+(?:[a-z]+\s+){0,2}?(?:key|button|space|enter|return|start|fire|to|[a-z0-9])\b/i;

/** Texts that ask for a key on a screen that hears none. */
function textsWithoutInput(design: Design): Finding[] {
  const inputs = design.events.filter(isInput);
  return design.screens.flatMap(({ name, text, place }) => {
    const [said] = asksForInput.exec(plainText(text)) ?? [];
    return said === undefined || hearsOn(design, name, inputs)
      ? []
      : [finding('text-without-input', { screen: name, said }, place)];
  });
}

/** Texts that name what can be pressed on a screen that stands still, but nothing that leads on from there. */
function waysOnUntold({ screens, transitions, rules }: Design): Finding[] {
  return screens.flatMap(({ name, live, text, place }) => {
    const ways = transitions.filter(({ from }) => from === name);
    if (live || ways.length === 0 || !ways.every(({ events }) => events.length > 0 && events.every(isInput)))
      return [];
    const words = plainText(text).toLowerCase();
    const isSaid = (event: string): boolean => words.includes(shortOf(event).toLowerCase());
    const heard = rules.filter((rule) => rule.screens.includes(name)).flatMap(({ events }) => events);
    const said = [...new Set(heard.filter((event) => isInput(event) && isSaid(event)))];
    const onward = [...new Set(ways.flatMap(({ events }) => events))];
    return said.length === 0 || onward.some(isSaid)
      ? []
      : [
          finding(
            'way-on-untold',
            { screen: name, said: said.map(shortOf), onward: onward.map(shortOf) },
            place,
          ),
        ];
  });
}

const shortOf = (input: string): string => input.slice('input.'.length);
