import { inflate, overlaps, rectOf, type Rect } from '../../core/base/rect.ts';
import { without } from '../../core/base/without.ts';
import type { DrawingRecord } from '../../core/document/records.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { composeSheet } from '../compose.ts';
import type { Scene } from '../scene.ts';
import { revisionsKind, revisionsOf, type RevisionsRecord } from './kind.ts';

/** What is said of an issue when it is made. */
export interface IssueWords {
  /** Letter or number. */
  readonly revision: string;
  readonly date: string;
  readonly drawn: string;
  readonly checked: string;
  readonly approved: string;
  /** What changed, in sentences. */
  readonly words: readonly string[];
  /** Address of the build guide of this very issue; absent: it has none. */
  readonly guide?: string;
}

/** Letters that are not read as others on a worn print (ASME Y14.35: I, O, Q, S, X and Z are left out). */
const LETTERS = 'ABCDEFGHJKLMNPRTUVWY';

/** The revision after one: numbers count on, letters go on past those that are left out, then with two. */
export function nextRevision(last: string | undefined): string {
  if (!last) return 'A';
  const n = /^(.*?)(\d+)$/.exec(last);
  if (n) return `${n[1]}${String(Number(n[2]) + 1).padStart(n[2]!.length, '0')}`;
  const up = last.toUpperCase();
  const end = up.at(-1)!;
  const at = LETTERS.indexOf(end);
  const before = up.slice(0, -1);
  if (at < 0) return `${before}${LETTERS[[...LETTERS].findIndex((l) => l > end)] ?? 'A'}`;
  if (at < LETTERS.length - 1) return `${before}${LETTERS[at + 1]!}`;
  return `${before ? nextRevision(before) : 'A'}A`;
}

/**
 * The drawing as it goes out: title block, a row of the revision table, the table itself where there is none yet and room for it,
 * clouds of this revision only.
 * @param order of the row; the same row again says what it says now
 */
export function issueSteps(scene: Scene, { revision, date, drawn, checked, approved, words, guide }: IssueWords, order: number): Step[] {
  const drawing = {
    ...(without(scene.drawing, 'guide') as DrawingRecord),
    ...(guide ? { guide } : {}),
    revision,
    date,
    drawnBy: drawn,
    checkedBy: checked,
    approvedBy: approved,
  };
  const row = revisionsOf(scene).find((r) => r.letter === revision);
  const id = row?.id ?? `revision:${order}`;
  const steps: Step[] = [
    { op: 'put', record: drawing },
    { op: 'put', record: { type: 'revision', id, letter: revision, text: words.join('; ').slice(0, 2000), date, by: drawn, order: row?.order ?? order } },
    // What was around earlier changes has been built since.
    ...scene.all('cloud').flatMap((c): Step[] => (c.revision === revision ? [] : [{ op: 'drop', id: c.id }])),
  ];
  const result = applySteps(scene.document, steps);
  if (!result.ok) return steps;
  const after = scene.with(result.document);
  const [there] = scene.all('revisions');
  // With one more row it may reach into something: then it goes where it has room, and stays as it is where there is none.
  const table = there ? (standsOnSomething(there, after) ? placedTable(after, there) : undefined) : placedTable(after);
  return table ? [...steps, { op: 'put', record: table }] : steps;
}

function standsOnSomething(table: RevisionsRecord, scene: Scene): boolean {
  const box = revisionsKind.draw(table, scene)[0]!.ink;
  return composeSheet(scene, table.sheet).groups.some((g) => g.id !== table.id && g.role !== 'frame' && g.role !== 'view' && overlaps(g.ink, box, -0.2));
}

/**
 * A revision table where it stands on nothing: beside the title block, else in an upper corner, of the first sheet that has room.
 * @param moved the one that is there; it stays on its sheet if that has room
 */
export function placedTable(scene: Scene, moved?: RevisionsRecord): RevisionsRecord | undefined {
  const sheets = [...scene.sheets].sort((a, b) => Number(b.id === moved?.sheet) - Number(a.id === moved?.sheet));
  for (const sheet of sheets) {
    if (sheet.noTitle) continue;
    const { frame } = scene.page(sheet.id).geometry;
    const taken = composeSheet(scene, sheet.id).groups.flatMap((g) => (g.role === 'frame' || g.id === moved?.id ? [] : [inflate(g.ink, 1)]));
    const docked: RevisionsRecord = { type: 'revisions', id: moved?.id ?? 'revisions:1', sheet: sheet.id };
    const boxOf = (r: RevisionsRecord): Rect => rectOf(revisionsKind.draw(r, scene)[0]!.box);
    const { width } = boxOf(docked);
    const corners: readonly Vec2[] = [
      [frame.x + frame.width - width, frame.y],
      [frame.x, frame.y],
    ];
    for (const r of [docked, ...corners.map((at) => ({ ...docked, at }))]) {
      const box = boxOf(r);
      const beside = box.x >= frame.x - 1e-6 && box.y >= frame.y - 1e-6;
      if (beside && !taken.some((t) => overlaps(t, box, -0.2))) return r;
    }
  }
  return undefined;
}
