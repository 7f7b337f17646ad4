import { inflate, type Rect } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { DisplayItem, Drawn } from '../../core/picture/display-list.ts';
import { inkOf, joined } from '../../core/picture/ink.ts';
import { textWidth } from '../../core/picture/lettering.ts';
import { rectangle } from '../../core/picture/shapes.ts';
import { drawLeaders, lostLeaders, NO_LEADERS } from '../leader.ts';
import type { Scene } from '../scene.ts';
import { wordsOf, type NoteRecord } from './words.ts';

/** Distance of lines, as a share of the height of capitals (ISO 3098). */
const LINE = 1.7;
/** Leaders go to a short level line beside the text, mm. */
const SHELF_MM = 3;
const AIR_MM = 1.2;

interface Line {
  readonly pieces: readonly { readonly text: string; readonly bold: boolean }[];
  readonly indent: number;
  readonly mark: string;
}

/** Paper mm of the upper left corner of the text. */
export function notePlace(note: NoteRecord, scene: Scene): Vec2 {
  const view = scene.one('view', note.view);
  return view ? [view.at[0] + note.at[0], view.at[1] + note.at[1]] : note.at;
}

/** A note's lines as they stand on paper. */
export function layOutNote(
  note: NoteRecord,
  scene: Scene,
  height: number,
): { readonly lines: readonly Line[]; readonly width: number; readonly height: number } {
  const lines = wordsOf(note, scene)
    .split('\n')
    .flatMap((l) => linesOf(l, height, note.widthMm));
  const width = Math.max(1, ...lines.map((l) => l.indent + l.pieces.reduce((s, p) => s + textWidth(p.text, height), 0)));
  return { lines, width: Math.max(width, note.frame ? (note.widthMm ?? 0) : 0), height: lines.length * height * LINE - height * (LINE - 1) };
}

/** One typed line: its mark if it begins a list, its words bold or not, broken where it is too long. */
function linesOf(typed: string, height: number, width: number | undefined): Line[] {
  const list = /^\s*(-|\d+[.)])\s+/.exec(typed);
  const mark = list ? (list[1] === '-' ? '•' : list[1]!) : '';
  const indent = list ? Math.max(textWidth('00. ', height), textWidth(`${mark} `, height)) : 0;
  const words = boldWords(list ? typed.slice(list[0].length) : typed);
  const out: Line[] = [];
  let pieces: { text: string; bold: boolean }[] = [];
  let used = 0;
  const close = () => {
    out.push({ pieces, indent, mark: out.length ? '' : mark });
    [pieces, used] = [[], 0];
  };
  for (const { text, bold } of words) {
    const more = textWidth(text, height);
    if (width !== undefined && used > 0 && used + textWidth(text.trimEnd(), height) > width - indent) close();
    const last = pieces.at(-1);
    if (last && last.bold === bold) last.text += text;
    else pieces.push({ text, bold });
    used += more;
  }
  close();
  return out;
}

/** Words with the spaces after them; those between stars are bold. */
function boldWords(text: string): { readonly text: string; readonly bold: boolean }[] {
  return text.split(/(\*[^*\n]+\*)/).flatMap((part) => {
    const bold = /^\*[^*]+\*$/.test(part);
    return (bold ? part.slice(1, -1) : part).split(/(?<=\s)(?=\S)/).flatMap((w) => (w ? [{ text: w, bold }] : []));
  });
}

export const heightOf = (note: NoteRecord, scene: Scene): number => {
  const sheet = scene.sheetOf(note);
  return note.heightMm ?? (sheet ? scene.page(sheet.id).style.text : 2.5);
};

export function drawNote(note: NoteRecord, scene: Scene): Drawn[] {
  const view = scene.one('view', note.view);
  if (view?.off) return [];
  const sheet = scene.sheetOf(note);
  if (!sheet) return [];
  const { style } = scene.page(sheet.id);
  const height = heightOf(note, scene);
  const [x, y] = notePlace(note, scene);
  const { lines, width, height: tall } = layOutNote(note, scene, height);
  const items: DisplayItem[] = [];
  lines.forEach((l, i) => {
    const base = y + height + i * height * LINE;
    if (l.mark) items.push({ kind: 'text', x, y: base, text: l.mark, height, anchor: 'start' });
    let at = x + l.indent;
    for (const p of l.pieces) {
      const letters = p.text.trim();
      // A space at the beginning is a distance: writers of pictures would leave it out.
      const lead = textWidth(p.text.slice(0, p.text.length - p.text.trimStart().length), height);
      if (letters) items.push({ kind: 'text', x: at + lead, y: base, text: letters, height, anchor: 'start', ...(p.bold ? { bold: true as const } : {}) });
      at += textWidth(p.text, height);
    }
  });
  const box: Rect = { x, y, width, height: tall };
  const around = inflate(box, note.frame ? AIR_MM * 1.3 : AIR_MM);
  if (note.frame) items.push(rectangle(around, style.narrow));
  const level = y + height / 2;
  const joints = { left: [around.x, level], right: [around.x + around.width, level], shelfMm: SHELF_MM } as const;
  const leaders = view ? drawLeaders(note.leaders ?? [], view, scene, joints, style.narrow) : NO_LEADERS;
  items.push(...leaders.items);
  const lost = lostLeaders(note.leaders).length > 0;
  return [
    {
      id: note.id,
      role: 'note',
      label: lost ? `Note that lost what it points at: ${note.text.slice(0, 60)}` : `Note: ${wordsOf(note, scene).slice(0, 120)}`,
      box: [around.x, around.y, around.width, around.height],
      items,
      ink: items.length ? joined(inkOf(items)) : around,
      solid: { rects: [box], segments: leaders.lines },
      grab: around,
      grabLines: leaders.lines,
    },
  ];
}
