import { strayBalloons } from '../../elements/balloon/place/stray.ts';
import { segmentsCross } from '../../elements/balloon/place/layout.ts';
import type { Component } from '../assembly/assembly.ts';
import { overlaps } from '../draft/arrange.ts';
import { recordsOf, sheetsOf, viewsOn, type DrawingDocument, type ViewRecord } from '../document/records.ts';
import type { Item } from '../ledger/items.ts';
import { PROPERTY_TITLES } from '../ledger/items.ts';
import { pageOf } from '../../elements/compose.ts';
import type { DisplayList } from '../picture/display-list.ts';
import { balloonPlace } from '../../elements/balloon/draw.ts';
import { paperMapOf } from '../../elements/view/draw.ts';
import { rectOf, type Rect } from '../sheet/formats.ts';
import type { ViewResult } from '../views/compute-view.ts';

export type FindingCode =
  'NOT_IDENTIFIED' | 'SEEN_NOWHERE' | 'OVERLAP' | 'OUTSIDE_FRAME' | 'LEADERS_CROSS' | 'LEADER_SLANT' | 'LIST_GAP' | 'NOT_CUT' | 'NOT_HATCHED' | 'OFF_TARGET';

/** One thing that a checker would mark. */
export interface Finding {
  readonly code: FindingCode;
  readonly severity: 'trouble' | 'look';
  readonly sheet: string | null;
  /** Records concerned. */
  readonly about: readonly string[];
  readonly text: string;
}

export interface ProofInput {
  readonly document: DrawingDocument;
  readonly components: readonly Component[];
  readonly items: readonly Item[];
  readonly results: ReadonlyMap<string, ViewResult>;
  /** Composed sheets by sheet id. */
  readonly sheets: ReadonlyMap<string, DisplayList>;
}

/** Least visible area that counts as seen, mm² on paper. */
export const SEEN_MM2 = 1;

/** Checks the drawing as a checker would. */
export function findingsOf(input: ProofInput): Finding[] {
  return [...identification(input), ...openMeshes(input), ...offTarget(input), ...overlapping(input), ...leaders(input), ...gaps(input)];
}

/** Visible area of an item on paper, mm², in one view. */
export function visibleOnPaper(item: Item, result: ViewResult, scale: number): number {
  return item.components.reduce((s, c) => s + (result.visibleArea[c] ?? 0), 0) * scale * scale;
}

function identification({ document, components, items, results }: ProofInput): Finding[] {
  const pathItem = new Map(items.flatMap((i) => i.components.map((c) => [components[c]!.path, i] as const)));
  const identified = new Set(recordsOf(document, 'balloon').map((b) => pathItem.get(b.component)?.part));
  const views = recordsOf(document, 'view');
  const out: Finding[] = [];
  for (const i of items) {
    const seen = Math.max(0, ...views.map((v) => (results.has(v.id) ? visibleOnPaper(i, results.get(v.id)!, v.scale) : 0)));
    const name = `${i.number} ${i.values.description.text}`;
    if (seen < SEEN_MM2)
      out.push({
        code: 'SEEN_NOWHERE',
        severity: 'trouble',
        sheet: null,
        about: [i.part],
        text: `${name} can be seen in no view (at most ${seen.toFixed(1)} mm² on paper). Add a view or a cut that shows it.`,
      });
    if (!identified.has(i.part)) out.push({ code: 'NOT_IDENTIFIED', severity: 'trouble', sheet: null, about: [i.part], text: `${name} has no balloon.` });
  }
  return out;
}

/** Leaders that do not end on their component. */
function offTarget({ document, components, items, results }: ProofInput): Finding[] {
  const itemOf = new Map(items.flatMap((i) => i.components.map((c) => [components[c]!.path, i] as const)));
  return strayBalloons(document, components, results).map(({ balloon, view, aim }) => {
    const item = itemOf.get(balloon.component);
    const name = item ? `Balloon ${item.number}` : 'A balloon';
    return {
      code: 'OFF_TARGET',
      severity: 'trouble',
      sheet: view.sheet,
      about: [balloon.id],
      text: !item
        ? `${name} points at a part that is gone. Re-aim it, or remove it.`
        : aim
          ? `${name} does not end on its part any more.`
          : `${name} points at a part that shows no edge in ${view.name}.`,
    };
  });
}

/** Components that a section should cut but cannot. */
function openMeshes({ document, items, results }: ProofInput): Finding[] {
  return recordsOf(document, 'view').flatMap((v) => {
    const result = results.get(v.id);
    const named = (components: readonly number[] | undefined) => {
      const wanted = new Set(components);
      return items
        .filter((i) => i.components.some((c) => wanted.has(c)))
        .map((i) => `${i.number} ${i.values.description.text}`)
        .join(', ');
    };
    const [uncut, unhatched] = [named(result?.uncut), named(result?.unhatched)];
    const base = { severity: 'trouble', sheet: v.sheet, about: [v.id] } as const;
    const out: Finding[] = [];
    const advice = 'Keep it whole on purpose, or mend the model.';
    if (uncut) out.push({ ...base, code: 'NOT_CUT', text: `${v.name} shows ${uncut} whole: the surface is open, so there is no inside to cut. ${advice}` });
    if (unhatched) out.push({ ...base, code: 'NOT_HATCHED', text: `${v.name} cuts ${unhatched} without hatching: the surface is open there. ${advice}` });
    return out;
  });
}

/** Does what a view really shows come under a rectangle on the sheet? Its box may be empty there. */
function covers(view: ViewRecord, result: ViewResult, r: Rect): boolean {
  const m = paperMapOf(view);
  const { window, component } = result.map;
  const step = window.pixelMm * m.scale;
  const i0 = Math.max(0, Math.floor((r.x - m.x(window.minX)) / step));
  const i1 = Math.min(window.width - 1, Math.ceil((r.x + r.width - m.x(window.minX)) / step));
  const j0 = Math.max(0, Math.floor((r.y - m.y(window.maxY)) / step));
  const j1 = Math.min(window.height - 1, Math.ceil((r.y + r.height - m.y(window.maxY)) / step));
  for (let j = j0; j <= j1; j++) for (let i = i0; i <= i1; i++) if (component[j * window.width + i]! >= 0) return true;
  return false;
}

function overlapping({ document, sheets, results }: ProofInput): Finding[] {
  const out: Finding[] = [];
  for (const s of sheetsOf(document)) {
    const list = sheets.get(s.id);
    if (!list) continue;
    const { frame } = pageOf(s).geometry;
    const groups = list.groups.filter((g) => g.role !== 'frame');
    groups.forEach((a, i) => {
      const box = rectOf(a.box);
      if (a.role !== 'title' && !inside(box, frame))
        out.push({ code: 'OUTSIDE_FRAME', severity: 'trouble', sheet: s.id, about: [a.id], text: `${a.label} reaches over the frame.` });
      for (const b of groups.slice(i + 1)) {
        const docked = (a.role === 'title' && b.role === 'list') || (a.role === 'list' && b.role === 'list');
        // A balloon stands beside its view's lines but may be inside its box.
        const balloonOnView = (a.role === 'view' && b.role === 'balloon') || (a.role === 'balloon' && b.role === 'view');
        if (docked || balloonOnView || !overlaps(box, rectOf(b.box), -0.01)) continue;
        const view = document[a.id];
        const result = results.get(a.id);
        if (view?.type === 'view' && result && b.role !== 'view' && !covers(view, result, rectOf(b.box))) continue;
        out.push({ code: 'OVERLAP', severity: 'trouble', sheet: s.id, about: [a.id, b.id], text: `${a.label} and ${b.label} overlap.` });
      }
    });
  }
  return out;
}

/** A list lies on the frame's line: that is inside. */
const ON_LINE_MM = 0.01;
const inside = (r: Rect, f: Rect) =>
  r.x >= f.x - ON_LINE_MM && r.y >= f.y - ON_LINE_MM && r.x + r.width <= f.x + f.width + ON_LINE_MM && r.y + r.height <= f.y + f.height + ON_LINE_MM;

function leaders({ document }: ProofInput): Finding[] {
  const out: Finding[] = [];
  for (const s of sheetsOf(document)) {
    const views = new Map(viewsOn(document, s.id).map((v) => [v.id, v]));
    const list = recordsOf(document, 'balloon')
      .filter((b) => views.has(b.view))
      .map((b) => ({ id: b.id, ...balloonPlace(b, views.get(b.view)!) }));
    list.forEach((a, i) => {
      const slant = (Math.atan2(Math.abs(a.tipY - a.y), Math.abs(a.tipX - a.x)) * 180) / Math.PI;
      if (slant < 5 || slant > 85)
        out.push({
          code: 'LEADER_SLANT',
          severity: 'look',
          sheet: s.id,
          about: [a.id],
          text: `A leader is ${slant < 5 ? 'level' : 'upright'}: it reads as an edge.`,
        });
      for (const b of list.slice(i + 1))
        if (segmentsCross(a.x, a.y, a.tipX, a.tipY, b.x, b.y, b.tipX, b.tipY))
          out.push({ code: 'LEADERS_CROSS', severity: 'trouble', sheet: s.id, about: [a.id, b.id], text: 'Two leaders cross.' });
    });
  }
  return out;
}

function gaps({ items }: ProofInput): Finding[] {
  return items
    .filter((i) => i.gaps.length > 0)
    .map((i) => ({
      code: 'LIST_GAP',
      severity: 'look',
      sheet: null,
      about: [i.part],
      text: `${i.number} ${i.values.description.text}: ${i.gaps.map((g) => PROPERTY_TITLES[g].toLowerCase()).join(', ')} missing.`,
    }));
}
