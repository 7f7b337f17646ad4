import type { ElementRecord } from '../../elements/kinds.ts';
import { homeOf } from '../../elements/scene.ts';
import type { Rect } from '../base/rect.ts';
import type { Drawn } from '../picture/display-list.ts';
import { meet } from '../picture/solid.ts';
import type { Finding } from './finding.ts';

/** A picture on a sheet and what it is of. */
export interface Standing extends Pick<Drawn, 'id' | 'label' | 'ink' | 'solid'> {
  readonly record: ElementRecord;
}

/** A list lies on the frame's line: that is inside. */
const ON_LINE_MM = 0.01;

/** What a checker would mark of where things stand: over the frame, or over each other. @param frame of the sheet */
export const standingFindings = (drawn: readonly Standing[], sheet: string, frame: Rect): Finding[] => [
  ...outside(drawn, sheet, frame),
  ...overlapping(drawn, sheet),
];

function outside(drawn: readonly Standing[], sheet: string, frame: Rect): Finding[] {
  return drawn
    .filter((d) => d.record.type !== 'sheet' && !inside(d.ink, frame))
    .map((d) => ({ code: 'OUTSIDE_FRAME', severity: 'must', sheet, about: [d.id], text: `${d.label} reaches over the frame.`, fix: 'Bring it inside' }));
}

const inside = (r: Rect, f: Rect) =>
  r.x >= f.x - ON_LINE_MM && r.y >= f.y - ON_LINE_MM && r.x + r.width <= f.x + f.width + ON_LINE_MM && r.y + r.height <= f.y + f.height + ON_LINE_MM;

/** Things may touch, and a leader may graze, mm. */
const GRACE_MM = 0.01;

function overlapping(drawn: readonly Standing[], sheet: string): Finding[] {
  const out: Finding[] = [];
  drawn.forEach((a, i) => {
    for (const b of drawn.slice(i + 1)) {
      if (together(a, b) || !meet(a.solid, b.solid, GRACE_MM)) continue;
      out.push({
        code: 'OVERLAP',
        severity: 'must',
        sheet,
        about: [a.id, b.id],
        text: `${a.label} and ${b.label} overlap.`,
        ...(movable(a, b) ? { fix: 'Make room' } : {}),
      });
    }
  });
  return out;
}

/** Views and balloons find another place by themselves. */
const movable = (a: Standing, b: Standing): boolean => [a, b].some((s) => s.record.type === 'balloon') || [a, b].every((s) => s.record.type === 'view');

/** Pieces of one thing, lists docked on each other and on the title block, and a view with what belongs to it, stand together. */
function together(a: Standing, b: Standing): boolean {
  if (a.record === b.record) return true;
  const docked = (r: ElementRecord) => r.type === 'list' || r.type === 'sheet';
  if (docked(a.record) && docked(b.record)) return true;
  return belongs(a.record, b.record) || belongs(b.record, a.record);
}

const belongs = (part: ElementRecord, whole: ElementRecord) => whole.type === 'view' && homeOf(part) === whole.id;
