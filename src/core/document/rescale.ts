import { grown } from '../../elements/change.ts';
import { followAll } from '../../elements/follow.ts';
import type { CutShape } from '../cut/cut-shape.ts';
import { scalesFor } from '../sheet/paper.ts';
import { drawingOf, type CutRecord, type DrawingDocument, type PullRecord, type SpreadRecord, type ViewRecord } from './records.ts';
import { scaleView } from './moves.ts';
import { followed } from './refs.ts';
import { applySteps, type Step } from './steps.ts';

type Triple = readonly [number, number, number];
const scaled = (v: Triple, k: number): Triple => [v[0] * k, v[1] * k, v[2] * k];

/**
 * The steps that carry a drawing over to its model `k` times as large: whatever is measured in the model goes along, what
 * lies on paper stays. Views take the standard scale nearest below the one that leaves them as large on paper.
 * @param keys what the keys of the model's geometry are now
 */
export function rescaleDrawing(doc: DrawingDocument, k: number, keys: ReadonlyMap<string, string> = new Map()): Step[] {
  const changed = new Map<string, Step>();
  const put = (record: Extract<Step, { op: 'put' }>['record']) => changed.set(record.id, { op: 'put', record });
  for (const s of followAll(doc, grown(k))) if (s.op === 'put') put(s.record);
  for (const r of Object.values(applied(doc, [...changed.values()]))) {
    if (r.type === 'view') put(rescaleView(r, k));
    if (r.type === 'spread') put(rescaleSpread(r, k));
  }
  // As large on paper as before, which may be at a scale that no standard has.
  let now = applied(doc, [...changed.values()]);
  const { standard } = drawingOf(doc);
  for (const r of Object.values(now)) {
    if (r.type !== 'view' || (r.parent !== null && r.align !== null && !r.ownScale)) continue;
    const was = doc[r.id] as ViewRecord;
    const usual = isStandard(was.scale, standard);
    const target = usual ? (scalesFor(standard, 200 / r.scale).find((s) => s <= r.scale * 1.001) ?? r.scale) : r.scale;
    for (const s of scaleView(now, r.id, target)) if (s.op === 'put') put(s.record);
    now = applied(doc, [...changed.values()]);
  }
  const renamed = <T extends { readonly geometry: string }>(r: T): T => {
    const geometry = keys.get(r.geometry);
    return geometry === undefined ? r : { ...r, geometry };
  };
  for (const r of Object.values(now)) {
    const { record } = followed(r, { edge: renamed, face: renamed });
    if (record && record !== r) put(record);
  }
  return [...changed.values()];
}

const isStandard = (scale: number, standard: 'iso' | 'asme') => scalesFor(standard, 200 / scale).some((s) => Math.abs(s / scale - 1) < 1e-9);

function applied(doc: DrawingDocument, steps: readonly Step[]): DrawingDocument {
  const r = applySteps(doc, steps);
  if (!r.ok) throw new RangeError(r.reason);
  return r.document;
}

function rescaleView(v: ViewRecord, k: number): ViewRecord {
  return {
    ...v,
    scale: v.scale / k,
    // A detail's went along with its outline.
    pivot: v.detail && v.within ? v.pivot : [v.pivot[0] * k, v.pivot[1] * k],
    ...(v.hiddenWithinMm === undefined ? {} : { hiddenWithinMm: v.hiddenWithinMm * k }),
    cut: v.cut && rescaleCut(v.cut, k),
  };
}

function rescaleCut(c: CutRecord, k: number): CutRecord {
  return {
    ...c,
    d: c.d * k,
    ...(c.behindMm === undefined ? {} : { behindMm: c.behindMm * k }),
    ...(c.shape ? { shape: rescaleShape(c.shape, k) } : {}),
  };
}

function rescaleShape(s: CutShape, k: number): CutShape {
  if (s.kind === 'local') {
    const more = s.more?.map((m) => ({ outline: m.outline.map((v) => v * k), d: m.d * k }));
    return { ...s, outline: s.outline.map((v) => v * k), ...(more ? { more } : {}) };
  }
  if (s.kind === 'stepped') return { ...s, steps: s.steps.map((p) => ({ from: p.from * k, d: p.d * k })) };
  return { ...s, from: s.from * k };
}

function rescaleSpread(s: SpreadRecord, k: number): SpreadRecord {
  const pull = (p: PullRecord): PullRecord => ({
    ...p,
    distanceMm: p.distanceMm * k,
    ...(p.turn ? { turn: { ...p.turn, through: scaled(p.turn.through, k) } } : {}),
  });
  return { ...s, pulls: s.pulls.map(pull) };
}
