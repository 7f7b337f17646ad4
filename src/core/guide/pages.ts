import type { Rect } from '../base/rect.ts';
import { massText, numberText } from '../ledger/items.ts';
import type { DisplayGroup, DisplayItem, DisplayList } from '../picture/display-list.ts';
import { wrapText } from '../picture/lettering.ts';
import { circlePath, line, rectangle, text } from '../picture/shapes.ts';
import { toolText, type Guide, type GuideStep } from './guide.ts';
import type { PartArt } from './part-art.ts';
import { PHRASES } from './phrases.ts';

/** A4 lying, mm. */
const PAGE = { width: 297, height: 210 } as const;
/** Where the picture of a step is, mm. */
export const PICTURE_ROOM: Rect = { x: 10, y: 22, width: 195, height: 176 };
const COLUMN: Rect = { x: 212, y: 26, width: 75, height: 172 };
const ROWS_ON_KIT_PAGE = 26;

export interface GuideTitle {
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly date: string;
}

/** The guide as pages to be printed: what it takes in all, then a page for each step. @param pictures by number of the step @param parts small pictures by id of the part */
export function guidePages(
  guide: Guide,
  title: GuideTitle,
  pictures: ReadonlyMap<number, readonly DisplayItem[]>,
  parts: ReadonlyMap<string, PartArt> = new Map(),
): DisplayList[] {
  return [...kitPages(guide, title), ...guide.steps.map((s) => stepPage(guide, s, title, pictures.get(s.number) ?? [], parts))];
}

const page = (label: string, items: readonly DisplayItem[]): DisplayList => {
  const group: DisplayGroup = { id: label, role: 'step', label, box: [0, 0, PAGE.width, PAGE.height], items };
  return { ...PAGE, groups: [group] };
};

function head({ title, number, revision }: GuideTitle, right: string): DisplayItem[] {
  const name = [number, revision].filter(Boolean).join(' ');
  return [bold(10, 14, name ? `${name}  ${title}` : title, 4), text(287, 14, right, 3.5, 'end'), line(10, 18, 287, 18, 0.5)];
}

const bold = (x: number, y: number, words: string, height: number, anchor: 'start' | 'end' = 'start'): DisplayItem =>
  ({ ...text(x, y, words, height, anchor), bold: true }) as DisplayItem;

function stepPage(guide: Guide, s: GuideStep, title: GuideTitle, picture: readonly DisplayItem[], parts: ReadonlyMap<string, PartArt>): DisplayList {
  const p = PHRASES[guide.language];
  const items: DisplayItem[] = [...head(title, `${s.unitName} · ${p.step.toLowerCase()} ${s.place} ${p.of} ${s.places}`), ...picture];
  const { x, width } = COLUMN;
  let y: number = COLUMN.y;
  const say = (words: string, height: number, heavy = false) => {
    for (const l of wrapText(words, height, width, 12)) {
      items.push(heavy ? bold(x, y + height, l, height) : text(x, y + height, l, height, 'start'));
      y += height * 1.7;
    }
  };
  say(`${s.number}`, 9, true);
  y += 1;
  say(s.text, 4, true);
  for (const c of s.callouts) {
    y += 1;
    say(c, 3.5);
  }
  if (s.heavy) {
    y += 1;
    say(s.heavy, 3.5, true);
  }
  if (s.kit.length) {
    y += 4;
    say(p.take, 3.5, true);
    for (const k of s.kit) {
      const art = parts.get(k.item.part);
      if (art) items.push(...art.fitted({ x: x + width - 23, y: y + 0.5, width: 14, height: 10 }));
      items.push({ kind: 'stroke', d: circlePath(x + 4.5, y + 5.5, 4.5), width: 0.25 }, text(x + 4.5, y + 7, numberText(k.item), 3.2, 'middle'));
      items.push(bold(x + width, y + 7, String(k.quantity), 4, 'end'));
      const lines = wrapText(k.name, 3, width - (art ? 36 : 22), 2);
      lines.forEach((l, i) => items.push(text(x + 12, y + 4.4 + i * 4.4, l, 3, 'start')));
      const note = [k.item.values.drawingNumber.text || k.item.values.partNumber.text, k.place, k.tool ? toolText(k.tool, guide.language) : '']
        .filter(Boolean)
        .join(' · ');
      if (note) items.push(text(x + 12, y + 4.4 + lines.length * 4.2, note, 2.2, 'start'));
      y += 6 + lines.length * 4.4 + (note ? 3 : 0);
      items.push(line(x, y - 1, x + width, y - 1, 0.18));
    }
  }
  if (s.checks.length) {
    y += 4;
    say(p.check, 3.5, true);
    for (const c of s.checks) {
      items.push(rectangle({ x, y: y + 0.5, width: 4.5, height: 4.5 }, 0.35));
      const lines = wrapText(c, 3.2, width - 8, 4);
      lines.forEach((l, i) => items.push(text(x + 7, y + 4 + i * 5, l, 3.2, 'start')));
      y += 3 + lines.length * 5;
    }
  }
  items.push(text(10, 204, guide.checked ? p.checked : p.unchecked, 2.5, 'start'), text(287, 204, `${s.number} / ${guide.steps.length}`, 2.5, 'end'));
  return page(`${p.step} ${s.number}`, items);
}

/** All that the steps take together. */
function kitPages(guide: Guide, title: GuideTitle): DisplayList[] {
  const p = PHRASES[guide.language];
  const rows = kitOfGuide(guide);
  const pages = Math.max(1, Math.ceil(rows.length / ROWS_ON_KIT_PAGE));
  return Array.from({ length: pages }, (_, k) => {
    const items: DisplayItem[] = head(title, `${p.kit} ${k + 1} / ${pages}`);
    const [item, quantity, , name, number, , tool, mass] = p.kitHeads;
    const heads = [
      [18, item, 'end'],
      [30, quantity, 'end'],
      [36, name, 'start'],
      [150, number, 'start'],
      [205, tool, 'start'],
      [287, mass, 'end'],
    ] as const;
    for (const [x, words, anchor] of heads) items.push(text(x, 20.6, words, 2, anchor));
    items.push(line(10, 22.2, 287, 22.2, 0.35));
    rows.slice(k * ROWS_ON_KIT_PAGE, (k + 1) * ROWS_ON_KIT_PAGE).forEach((r, i) => {
      const y = 27 + i * 6.6;
      items.push(
        text(18, y, numberText(r.item), 3.2, 'end'),
        bold(30, y, String(r.quantity), 3.2, 'end'),
        text(36, y, r.name, 3.2, 'start'),
        text(150, y, r.item.values.drawingNumber.text || r.item.values.partNumber.text || r.item.values.supplierNumber.text, 3.2, 'start'),
        text(205, y, r.tool ? toolText(r.tool, guide.language) : '', 3.2, 'start'),
        text(287, y, massText(r.item.massKg), 3.2, 'end'),
        line(10, y + 2, 287, y + 2, 0.18),
      );
    });
    return page(`${p.kit} ${k + 1}`, items);
  });
}

/** Items of all steps with how many are taken in all, by number. */
export function kitOfGuide(guide: Guide): GuideStep['kit'][number][] {
  const rows = new Map<string, GuideStep['kit'][number]>();
  for (const s of guide.steps)
    for (const k of s.kit) {
      const known = rows.get(k.item.part);
      rows.set(k.item.part, known ? { ...known, quantity: known.quantity + k.quantity } : k);
    }
  return [...rows.values()].sort((a, b) => a.item.number - b.item.number);
}
