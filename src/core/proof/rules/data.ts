import { isModelled, type Item, numberText } from '../../ledger/items.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Words that say how a thing is, not what it is: a list is found by its nouns (common practice: “Bolt, hex head”, not “Hex bolt”). */
const ADJECTIVES =
  /^(hex|hexagon(al)?|socket|flat|plain|spring|round|square|left|right|upper|lower|top|bottom|front|rear|small|large|big|long|short|inner|outer|main|new|old|heavy|light|steel|brass|plastic)\b(?!\s*[,(]|$)/i;
/** Words of one language that no other has: enough to see that two are mixed. */
export const LANGUAGES: readonly (readonly [string, RegExp])[] = [
  ['English', /\b(plate|bolt|nut|washer|screw|shaft|bearing|frame|cover|spring|housing|pin|key|ring|bracket|handle|wheel)\b/i],
  ['German', /\b(platte|schraube|mutter|scheibe|welle|lager|rahmen|deckel|feder|gehäuse|stift|passfeder|winkel|griff|rad|blech|bolzen)\b/i],
  ['French', /\b(plaque|vis|écrou|rondelle|arbre|palier|cadre|couvercle|ressort|boîtier|goupille|clavette|poignée|roue)\b/i],
];

const name = (i: Item) => `${numberText(i)} ${i.values.description.text}`;

/** What the list says of each item: numbers by source, masses, names (ISO 7573; common practice). */
export const data: Rule = {
  codes: ['BOUGHT_NUMBERED', 'MASS_UNKNOWN', 'NAME_STYLE', 'LANGUAGES'],

  whole(scene) {
    const out: Finding[] = [];
    const found = (code: Finding['code'], severity: Finding['severity'], items: readonly Item[], text: string) =>
      out.push({ code, severity, sheet: null, about: items.map((i) => i.part), text });
    for (const i of scene.items) {
      const source = i.values.source.text;
      if ((source === 'bought' || source === 'standard') && i.values.drawingNumber.text)
        found('BOUGHT_NUMBERED', 'should', [i], `${name(i)} is ${source}, but has the drawing number ${i.values.drawingNumber.text}: is it made?`);
      if (i.values.description.from === 'typed' && ADJECTIVES.test(i.values.description.text))
        found('NAME_STYLE', 'look', [i], `${name(i)}: what it is comes first, then how it is (“Bolt, hex head”).`);
    }
    const massless = scene.items.filter((i) => i.massKg === undefined && isModelled(i));
    if (massless.length)
      found(
        'MASS_UNKNOWN',
        'look',
        massless,
        `The mass of ${massless.length === 1 ? name(massless[0]!) : `${massless.length} items`} is not known: the whole is not either.`,
      );
    const spoken = LANGUAGES.filter(([, words]) => scene.items.some((i) => words.test(i.values.description.text)));
    if (spoken.length > 1) {
      const count = ([, words]: (typeof LANGUAGES)[number]) => scene.items.filter((i) => words.test(i.values.description.text)).length;
      const [, ...rest] = [...spoken].sort((a, b) => count(b) - count(a));
      const others = scene.items.filter((i) => rest.some(([, words]) => words.test(i.values.description.text)));
      found('LANGUAGES', 'look', others, `The list is in ${spoken.map(([l]) => l).join(' and ')}: see ${others.slice(0, 4).map(name).join(', ')}.`);
    }
    return out;
  },
};
