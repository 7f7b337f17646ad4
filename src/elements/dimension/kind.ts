import type { Vec2 } from '../../core/base/vector.ts';
import { plainText } from '../../core/dimension/value.ts';
import type { ValueText } from '../../core/dimension/value.ts';
import { without } from '../../core/base/without.ts';
import type { Kind } from '../kind.ts';
import { followTarget } from '../target.ts';
import { drawDimension, valuesOf } from './draw.ts';
import { dimensionFindings } from './findings.ts';
import type { DimensionRecord } from './measure.ts';
import { placedAt } from './place.ts';

/** Dimensions (ISO 129-1, ASME Y14.5): true values of the model, from its exact geometry. */
export const dimensionKind: Kind<DimensionRecord> = {
  title: 'dimension',
  layer: 3.5,
  draw: drawDimension,

  handles(record, scene) {
    const [drawn] = drawDimension(record, scene);
    const [text] = drawn?.texts ?? [];
    const ends = (drawn?.line?.ends ?? []).map((at, i) => ({ name: `jog-${i}`, at }));
    return [...(text ? [{ name: 'text', at: [text.x + text.width / 2, text.y + text.height / 2] as const }] : []), ...ends];
  },

  drag(record, by, scene, handle) {
    const [drawn] = drawDimension(record, scene);
    const grip = drawn?.grabLines?.[0];
    if (!drawn || !grip) return [];
    if (handle?.startsWith('jog-')) return drawn.line ? [{ op: 'put', record: jogged(record, Number(handle.slice(4)) as 0 | 1, by, drawn.line.way) }] : [];
    if (handle === 'text') return [{ op: 'put', record: slid(record, by, scene) }];
    // What is round is led by its corner, others by the middle of their line.
    const at: Vec2 =
      record.kind === 'diameter' || record.kind === 'radius' || record.kind === 'chamfer' || record.kind === 'slope'
        ? cornerOf(drawn.grabLines)
        : [(grip[0] + grip[2]) / 2, (grip[1] + grip[3]) / 2];
    const next = placedAt(record, [at[0] + by[0], at[1] + by[1]], scene);
    return next.away === record.away && next.side === record.side && next.turn === record.turn ? [] : [{ op: 'put', record: next }];
  },

  texts(record, scene) {
    const [drawn] = drawDimension(record, scene);
    const [value] = valuesOf(record, scene);
    if (!drawn || !value) return [];
    const height = record.style?.heightMm ?? scene.drawing.values?.heightMm ?? 2.5;
    return [
      {
        name: 'value',
        label: 'Text of the dimension',
        box: drawn.grab!,
        height,
        value: plainText(value.parts),
        write: (typed) => {
          const bare = valuesOf({ ...record, text: record.text?.tolerance ? { tolerance: record.text.tolerance } : {} }, scene)[0]!;
          const text = textFrom(typed, plainText(bare.parts), record.text ?? {});
          const rest = without(record, 'text');
          return [{ op: 'put', record: Object.keys(text).length ? { ...rest, text } : rest }];
        },
      },
    ];
  },

  follow(record, change) {
    const of = record.of.map((t) => followTarget(t, record.view, change));
    const lengths = record.kind !== 'angle' && record.kind !== 'slope';
    const seen = record.seen && lengths ? record.seen.map((v) => change.length(v)) : record.seen;
    const same = of.every((t, i) => t === record.of[i]) && (!seen || seen.every((v, i) => v === record.seen![i]));
    return same ? record : { ...record, of, ...(seen ? { seen } : {}) };
  },

  findings: dimensionFindings,
};

/**
 * What a typed text means: words around the true value stay around it, anything else is written instead of it.
 * @param bare the value as it is written by itself
 */
export function textFrom(typed: string, bare: string, before: ValueText): ValueText {
  const { form } = before;
  const rest = without(before, 'before', 'after', 'typed', 'form');
  let t = typed.trim();
  const brackets = t.startsWith('(') && t.endsWith(')');
  if (brackets) t = t.slice(1, -1).trim();
  const kept = { ...rest, ...(brackets ? { form: 'reference' as const } : form && form !== 'reference' ? { form } : {}) };
  if (t === '') return rest;
  const at = t.indexOf(bare);
  // The value as a word of its own, not as a part of another number.
  const alone = at >= 0 && !/[\d.,]/.test(t[at - 1] ?? ' ') && !/[\d]/.test(t[at + bare.length] ?? ' ');
  if (!alone) return { ...kept, typed: t };
  const [lead, trail] = [t.slice(0, at).trim(), t.slice(at + bare.length).trim()];
  return { ...kept, ...(lead ? { before: lead } : {}), ...(trail ? { after: trail } : {}) };
}

/** The end of the first line that another one begins at. */
function cornerOf(lines: readonly (readonly [number, number, number, number])[] | undefined): Vec2 {
  const shelf = lines?.at(-1) ?? [0, 0, 0, 0];
  return [shelf[0], shelf[1]];
}

/** Text moved along its line; pulled well off it, the line is cranked. */
function slid(record: DimensionRecord, by: Vec2, scene: Parameters<typeof drawDimension>[1]): DimensionRecord {
  const [drawn] = drawDimension(record, scene);
  const [line] = drawn?.grabLines ?? [];
  const [text] = drawn?.texts ?? [];
  if (!line || !text) return record;
  let way: Vec2 = [line[2] - line[0], line[3] - line[1]];
  const l = Math.hypot(...way) || 1;
  way = [way[0] / l, way[1] / l];
  // From left to right and from the foot upwards, as texts read.
  if (way[0] < -1e-9 || (Math.abs(way[0]) < 1e-9 && way[1] > 0)) way = [-way[0], -way[1]];
  const [measured] = valuesOf(record, scene);
  const view = scene.one('view', record.view);
  if (measured?.measured.shape !== 'stretch' || !view) return record;
  const map = scene.map(view);
  const ends = [map.toPaper(measured.measured.from), map.toPaper(measured.measured.to)] as const;
  const along = (p: Vec2) => p[0] * way[0] + p[1] * way[1];
  const middle = (along(ends[0]) + along(ends[1])) / 2;
  const at: Vec2 = [text.x + text.width / 2 + by[0], text.y + text.height / 2 + by[1]];
  const jog = (record.jog ?? 0) + by[0] * way[1] - by[1] * way[0];
  const next = { ...without(without(record, 'jog'), 'slide'), slide: along(at) - middle };
  return Math.abs(jog) > 4 ? { ...next, jog } : Math.abs(next.slide) < 1 ? without(next, 'slide') : next;
}

/** Nearer than this to where it belongs an extension line is straight again, mm. */
const STRAIGHT_MM = 0.8;

/** One extension line jogged along the dimension line. */
function jogged(record: DimensionRecord, end: 0 | 1, by: Vec2, way: Vec2): DimensionRecord {
  const before = record.jogs ?? [0, 0];
  const now = before[end] + by[0] * way[0] + by[1] * way[1];
  const jogs = before.map((j, i) => (i === end ? (Math.abs(now) < STRAIGHT_MM ? 0 : now) : j)) as unknown as readonly [number, number];
  return jogs.every((j) => j === 0) ? without(record, 'jogs') : { ...record, jogs };
}
