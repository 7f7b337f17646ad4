import { laidBlock } from '../../../elements/block/draw.ts';
import { blockText } from '../../../elements/block/words.ts';
import { formatBlocksOn } from '../../../elements/sheet/anchored-on.ts';
import type { Scene } from '../../../elements/scene.ts';
import { without } from '../../base/without.ts';
import type { DrawingDocumentRecord } from '../../document/records.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Item numbers are so much larger than dimensions, at least (ISO 6433: clearly larger; common practice 1.4 times). */
const LARGER = 1.35;

/** Texts are legible on their sheet: 2.5 mm on A4 to A2, 3.5 mm on A1 and A0 (ISO 3098-1 and common practice). */
export const texts: Rule = {
  codes: ['TEXT_CUT', 'TEXT_SMALL', 'NUMBERS_SMALL'],

  sheet(scene, sheet) {
    const { style } = scene.page(sheet);
    const out: Finding[] = [];
    let largest = 0;
    for (const { record, mm } of heights(scene, sheet)) {
      if (record.type === 'dimension') largest = Math.max(largest, mm);
      if (mm < style.text - 1e-6)
        out.push({
          code: 'TEXT_SMALL',
          severity: 'should',
          sheet,
          about: [record.id],
          text: `A ${record.type} is written ${mm} mm high: on this sheet texts are at least ${style.text} mm.`,
          fix: `Write it ${style.text} mm high`,
        });
    }
    for (const { id, mm } of smallCells(scene, sheet))
      out.push({
        code: 'TEXT_SMALL',
        severity: 'should',
        sheet,
        about: [id],
        text: `A cell of the sheet's format is written ${mm} mm high: ${style.caption} mm is the least${scene.formatOf(sheet).form.halfSize ? ' that is legible at half size' : ''}.`,
      });
    for (const { id, said } of cutTexts(scene, sheet))
      out.push({
        code: 'TEXT_CUT',
        severity: 'must',
        sheet,
        about: [id],
        text: `“${said}” has no room in its cell and is cut short: say it shorter, or give the cell more room.`,
      });
    const all = scene.drawing.values?.heightMm;
    if (Math.max(largest, all ?? 0) * LARGER > style.item && scene.viewsOn(sheet).some((v) => scene.at(v.id).some((r) => r.type === 'balloon')))
      out.push({
        code: 'NUMBERS_SMALL',
        severity: 'should',
        sheet,
        about: ['drawing'],
        text: `Dimensions are written ${Math.max(largest, all ?? 0)} mm high: item numbers of ${style.item} mm are not clearly larger.`,
      });
    return out;
  },

  fix(f, scene) {
    return f.about.flatMap((id) => {
      const r = scene.document[id];
      if (r?.type === 'note' || r?.type === 'table') return [{ op: 'put' as const, record: without(r, 'heightMm') as DrawingDocumentRecord }];
      if (r?.type === 'dimension' && r.style) return [{ op: 'put' as const, record: { ...r, style: without(r.style, 'heightMm') } }];
      return [];
    });
  },
};

/** Longest piece of a text that a finding repeats. */
const QUOTED = 60;

/** Texts of the sheet's title block and its other blocks of which something is missing on paper. */
function cutTexts(scene: Scene, sheet: string): { id: string; said: string }[] {
  const own = scene.at(sheet).filter((r) => r.type === 'block');
  return [...formatBlocksOn(scene, scene.one('sheet', sheet)!), ...own].flatMap((block) =>
    laidBlock(block, scene).cells.flatMap(({ cut, cell }) => {
      const words = blockText(cell.text, block, scene).replaceAll('\n', ' ');
      // The blocks that come with a standard are no records of the drawing.
      return cut
        ? [{ id: scene.document[block.id] ? block.id : 'drawing', said: words.length > QUOTED ? `${words.slice(0, QUOTED).trimEnd()}...` : words }]
        : [];
    }),
  );
}

/** Cells of the format whose letters someone made smaller than any may be (ISO 3098: 1.8 mm; a step more where the sheet is printed at half size). */
function smallCells(scene: Scene, sheet: string): { id: string; mm: number }[] {
  const { caption } = scene.page(sheet).style;
  return scene
    .formatOf(sheet)
    .elements.flatMap((e) =>
      e.type === 'block' ? e.cells.flatMap(({ heightMm: mm }) => (mm !== undefined && mm < caption - 1e-6 ? [{ id: e.id, mm }] : [])) : [],
    );
}

/** Heights of capitals that someone chose, of everything on a sheet and in its views. */
function heights(scene: Scene, sheet: string): { record: DrawingDocumentRecord; mm: number }[] {
  const records = [...scene.at(sheet), ...scene.viewsOn(sheet).flatMap((v) => (v.off ? [] : scene.at(v.id)))];
  return records.flatMap((record) => {
    const mm = record.type === 'note' || record.type === 'table' ? record.heightMm : record.type === 'dimension' ? record.style?.heightMm : undefined;
    return mm === undefined ? [] : [{ record, mm }];
  });
}
