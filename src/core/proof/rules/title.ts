import { titleBlockOf } from '../../../elements/sheet/format-of.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** What a title block has to say (ISO 7200: owner, number, title, date, who made it). */
const WANTED = [
  ['title', 'a title'],
  ['number', 'a drawing number'],
  ['owner', 'an owner'],
  ['drawnBy', 'who drew it'],
  ['date', 'a date'],
] as const;

export const title: Rule = {
  codes: ['TITLE_GAP'],
  whole(scene): Finding[] {
    if (scene.sheets.every((s) => s.noTitle || !titleBlockOf(scene.formatOf(s.id)))) return [];
    const missing = WANTED.filter(([key]) => scene.drawing[key].trim() === '').map(([, words]) => words);
    return missing.length
      ? [{ code: 'TITLE_GAP', severity: 'look', sheet: null, about: ['drawing'], text: `The title block wants ${missing.join(', ')}.` }]
      : [];
  },
};
