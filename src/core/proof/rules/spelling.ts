import type { Scene } from '../../../elements/scene.ts';
import type { DrawingDocumentRecord } from '../../document/records.ts';
import { isModelled, numberText } from '../../ledger/items.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';
import { LANGUAGES } from './data.ts';

/** Is a word spelt as a dictionary has it? */
export type Speller = (word: string) => boolean;

/** Plain words: designations, abbreviations in capitals and names of files are none. */
const WORD = /(?<![\p{L}\p{N}._/-])\p{L}\p{Ll}{3,}(?![\p{L}\p{N}_/]|[.-]\p{L})/gu;

/** Words that no dictionary has, in texts that a drafter wrote. One's own words are kept with the proof of the job. */
export const spelling: Rule = {
  codes: ['SPELLING', 'SHEET_COUNT'],

  whole(scene) {
    const { speller } = scene;
    if (!speller) return [];
    // There is an English dictionary only: a list in another language would be all wrong.
    if (foreign(scene.items.map((i) => i.values.description.text).join(' '))) return [];
    const own = new Set((scene.one('proof', 'proof')?.words ?? []).map((w) => w.toLowerCase()));
    return textsOf(scene).flatMap(({ about, sheet, words, what }): Finding[] => {
      if (foreign(words)) return [];
      const wrong = [...new Set(words.match(WORD) ?? [])].filter((w) => !own.has(w.toLowerCase()) && !speller(w) && !speller(w.toLowerCase()));
      return wrong.length
        ? [
            {
              code: 'SPELLING',
              severity: 'look',
              sheet,
              about: [about],
              text: `${what}: ${wrong.map((w) => `“${w}”`).join(', ')} ${wrong.length === 1 ? 'is' : 'are'} in no dictionary.`,
              fix: wrong.length === 1 ? 'Keep it as a word of our own' : 'Keep them as words of our own',
            },
          ]
        : [];
    });
  },

  /** A count of sheets that is typed goes wrong as soon as a sheet is added. */
  sheet(scene, sheet) {
    const at = scene.sheets.findIndex((s) => s.id === sheet) + 1;
    const right = `${at} of ${scene.sheets.length}`;
    return scene.at(sheet).flatMap((r): Finding[] => {
      if (r.type !== 'note') return [];
      const typed = SHEETS.exec(r.text);
      return !typed || `${typed[2]} of ${typed[3]}` === right
        ? []
        : [
            {
              code: 'SHEET_COUNT',
              severity: 'must',
              sheet,
              about: [r.id],
              text: `The note says “${typed[0]}”: this is sheet ${right}.`,
              fix: `Write ${right}`,
            },
          ];
    });
  },

  fix(f, scene) {
    const record = scene.document[f.about[0] ?? ''];
    if (f.code === 'SHEET_COUNT') {
      const at = scene.sheets.findIndex((s) => s.id === f.sheet) + 1;
      return record?.type === 'note' && at > 0
        ? [{ op: 'put', record: { ...record, text: record.text.replace(SHEETS, (_, before: string) => `${before}${at} of ${scene.sheets.length}`) } }]
        : [];
    }
    const words = [...f.text.matchAll(/“(\p{L}+)”/gu)].map((m) => m[1]!);
    const proof = scene.one('proof', 'proof') ?? { type: 'proof' as const, id: 'proof' as const, off: [], severity: {}, accepted: [] };
    return [{ op: 'put', record: { ...proof, words: [...new Set([...(proof.words ?? []), ...words])] } }];
  },
};

/** More words of another language than English ones? */
function foreign(text: string): boolean {
  const [english = 0, ...others] = LANGUAGES.map(([, words]) => text.match(new RegExp(words.source, 'giu'))?.length ?? 0);
  return Math.max(...others) > english;
}

const SHEETS = /\b(sheet\s+)(\d+)\s+of\s+(\d+)\b/i;

interface Written {
  readonly about: string;
  readonly sheet: string | null;
  readonly words: string;
  /** For people: where it stands. */
  readonly what: string;
}

/** What someone typed, or the file says: descriptions, remarks, the title, names of views, notes, cells. */
function textsOf(scene: Scene): Written[] {
  const out: Written[] = [{ about: 'drawing', sheet: null, words: scene.drawing.title, what: 'Title' }];
  for (const i of scene.items) {
    const { description, remark } = i.values;
    const typed = description.from === 'typed' || !isModelled(i);
    out.push({ about: i.part, sheet: null, words: `${typed ? description.text : ''} ${remark.text}`, what: `Item ${numberText(i)}` });
  }
  for (const s of scene.sheets)
    for (const home of [s.id, ...scene.viewsOn(s.id).map((v) => v.id)]) for (const r of scene.at(home)) out.push(...writtenIn(r, s.id));
  return out;
}

function writtenIn(r: DrawingDocumentRecord, sheet: string): Written[] {
  if (r.type === 'note') return [{ about: r.id, sheet, words: r.text, what: 'Note' }];
  if (r.type === 'table') return [{ about: r.id, sheet, words: r.rows.flat().join(' '), what: 'Table' }];
  if (r.type === 'view' && r.label) return [{ about: r.id, sheet, words: r.name, what: 'View' }];
  return [];
}
