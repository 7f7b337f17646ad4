import type { StatedTolerance } from '../../core/assembly/stated.ts';
import { crosses, inflate, overlaps, rectOf, type Rect } from '../../core/base/rect.ts';
import type { Vec2 } from '../../core/base/vector.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import { decimalText, wholeStyle } from '../../core/dimension/value.ts';
import { HIDDEN } from '../../core/outline/linework.ts';
import { composeSheet } from '../compose.ts';
import { carries } from '../dimension/propose.ts';
import type { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { drawSign, type Sign, type SignRecord } from './draw.ts';

/** How far outside its view a sign is put, mm, and from place to place along it. */
const BESIDE_MM = [14, 26, 38, 50] as const;
const STEP_MM = 6;
const AIR_MM = 1.5;

/** Geometrical tolerances and datums that the model states, as signs beside the first view that shows their faces as lines; each once. */
export function statedSigns(scene: Scene, views: readonly ViewRecord[], freshId: (n: number) => string): SignRecord[] {
  const out: SignRecord[] = [];
  const done = new Set(
    scene.all('sign').flatMap((s) => (s.leaders?.[0]?.to.face ? [keyOf(s.is, s.leaders[0].to.face.geometry, s.leaders[0].to.face.face)] : [])),
  );
  for (const view of views.filter((v) => carries(scene, v))) {
    const shown = new Set(scene.result(view.id)!.lines.component);
    for (const c of scene.components) {
      const part = scene.assembly.parts[c.part]!;
      if (!part.stated || !shown.has(c.index)) continue;
      const signs: readonly (readonly [Sign, readonly number[]])[] = [
        ...part.stated.datums.map((d) => [{ sign: 'datum', letter: d.letter.slice(0, 4) }, d.on] as const),
        ...part.stated.tolerances.map((t) => [frameOf(t, scene), t.on] as const),
      ];
      for (const [is, on] of signs) {
        const key = keyOf(is, part.geometryKey, on[0]!);
        const tip = done.has(key) ? undefined : lineOf(scene, view, c.index, on);
        const record = tip && placed(scene, view, is, { component: c.path, geometry: part.geometryKey, face: on[0]! }, tip, freshId(out.length), out);
        if (!record) continue;
        done.add(key);
        out.push(record);
      }
    }
  }
  return out;
}

const keyOf = (is: Sign, geometry: string, face: number): string =>
  `${geometry} ${face} ${is.sign} ${is.sign === 'frame' ? is.rows[0]!.of : is.sign === 'datum' ? is.letter : ''}`;

function frameOf(t: StatedTolerance, scene: Scene): Sign {
  const { sign } = wholeStyle(scene.drawing.standard, scene.drawing.values);
  const zone = decimalText(t.zoneMm, { decimals: 4, zeros: false, sign });
  return {
    sign: 'frame',
    rows: [{ of: t.of, ...(t.round ? { round: true as const } : {}), zone, ...(t.modifier ? { modifier: t.modifier } : {}), datums: t.datums.slice(0, 3) }],
    above: '',
  };
}

/** The middle of the longest visible line of one of the faces, view space; undefined when the view shows none. */
function lineOf(scene: Scene, view: ViewRecord, component: number, faces: readonly number[]): Vec2 | undefined {
  const features = scene.features(component);
  const { lines } = scene.result(view.id)!;
  let best: Vec2 | undefined;
  let longest = 0;
  for (let i = 0; i < lines.kind.length; i++) {
    if (lines.component[i] !== component || lines.kind[i]! & HIDDEN) continue;
    const e = lines.edge[i]!;
    const on = e < 0 ? [-1 - e] : [features?.edgeFaces[e * 2], features?.edgeFaces[e * 2 + 1]];
    if (!on.some((f) => f !== undefined && faces.includes(f))) continue;
    const [a, b] = [lines.start[i]! * 2, lines.start[i + 1]! * 2 - 2];
    const middle = a + 2 * Math.floor((b - a) / 4);
    const length = Math.hypot(lines.xy[b]! - lines.xy[a]!, lines.xy[b + 1]! - lines.xy[a + 1]!);
    if (length <= longest) continue;
    longest = length;
    // Of one straight line the middle, of a curve a point of it.
    best = b - a === 2 ? [(lines.xy[a]! + lines.xy[b]!) / 2, (lines.xy[a + 1]! + lines.xy[b + 1]!) / 2] : [lines.xy[middle]!, lines.xy[middle + 1]!];
  }
  return best;
}

/** A sign beside its view where nothing stands, as near to what it points at as there is room. */
function placed(
  scene: Scene,
  view: ViewRecord,
  is: Sign,
  face: { readonly component: string; readonly geometry: string; readonly face: number },
  tip: Vec2,
  id: string,
  others: readonly SignRecord[],
): SignRecord | undefined {
  const box = rectOf(viewRect(view, scene.result(view.id)));
  const [tx, ty] = scene.map(view).toPaper(tip);
  const solids = [
    ...composeSheet(scene, view.sheet).groups.filter((g) => g.role !== 'frame' && g.role !== 'centre'),
    ...others.flatMap((o) => drawSign(o, scene)),
  ];
  const frame = inflate(scene.page(view.sheet).geometry.frame, -AIR_MM);
  const places: Vec2[] = [];
  for (const away of BESIDE_MM)
    for (let k = 0; k < 12; k++) {
      const along = (k % 2 ? 1 : -1) * Math.ceil(k / 2) * STEP_MM;
      places.push([box.x + box.width + away, ty + along], [box.x - away, ty + along], [tx + along, box.y - away], [tx + along, box.y + box.height + away]);
    }
  places.sort((a, b) => Math.hypot(a[0] - tx, a[1] - ty) - Math.hypot(b[0] - tx, b[1] - ty));
  for (const [x, y] of places) {
    const record: SignRecord = {
      type: 'sign',
      id,
      view: view.id,
      sheet: null,
      at: [x - view.at[0], y - view.at[1]],
      is,
      leaders: [{ to: { face, at: tip }, end: is.sign === 'datum' ? 'triangle' : 'arrow' }],
    };
    const [drawn] = drawSign(record, scene);
    const r: Rect | undefined = drawn && inflate(drawn.solid.rects[0]!, AIR_MM);
    if (!drawn || !r || r.x < frame.x || r.y < frame.y || r.x + r.width > frame.x + frame.width || r.y + r.height > frame.y + frame.height) continue;
    const free = solids.every((s) => !overlaps(r, rectOf(s.box)) && !s.solid.rects.some((q) => overlaps(r, q)) && !s.solid.segments.some((l) => crosses(l, r)));
    const leaders = drawn.solid.segments;
    const clear = solids.every((s) => s.id === view.id || !s.solid.rects.some((q) => leaders.some((l) => crosses(l, q))));
    if (free && clear) return record;
  }
  return undefined;
}
