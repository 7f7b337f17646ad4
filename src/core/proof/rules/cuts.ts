import { numberText } from '../../ledger/items.ts';
import type { Scene } from '../../../elements/scene.ts';
import { SurfaceKind } from '../../assembly/part-geometry.ts';
import { roleOf } from '../../assembly/role.ts';
import { applyToDirection, applyToPoint, type Placement } from '../../base/placement.ts';
import { dot } from '../../base/vector.ts';
import { staysWhole, type TurnedShape } from '../../cut/lengthwise.ts';
import { distanceToLine } from '../../cut/turned-axis.ts';
import type { PartFeatures, Round } from '../../features/part-features.ts';
import { capStyles, touchingCaps } from '../../cut/hatch-styles.ts';
import type { ViewRecord } from '../../document/records.ts';
import { without } from '../../base/without.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

/** Sections: shafts and fasteners stay whole along their axis (ISO 128-3, 128-50), touching parts are hatched differently. */
export const cuts: Rule = {
  codes: ['CUT_LENGTHWISE', 'HATCH_ALIKE'],

  sheet(scene, sheet) {
    const out: Finding[] = [];
    for (const v of scene.viewsOn(sheet)) {
      const result = scene.result(v.id);
      if (!v.cut || v.off || v.detail || !result) continue;
      // On its own sheet a part is cut to show its inside.
      const own = scene.one('sheet', sheet)?.part !== undefined;
      const lengthwise = own ? [] : [...new Set(result.caps.map((c) => c.component))].filter((c) => isCutLengthwise(scene, v, c));
      for (const c of lengthwise)
        out.push({
          code: 'CUT_LENGTHWISE',
          severity: 'should',
          sheet,
          about: [v.id, scene.components[c]!.path],
          text: `${v.name} cuts ${nameOf(scene, c)} along its axis: shafts and fasteners stay whole.`,
          fix: 'Keep it whole',
        });
      for (const [a, b] of alike(scene, v))
        out.push({
          code: 'HATCH_ALIKE',
          severity: 'should',
          sheet,
          about: [v.id, scene.components[a]!.path, scene.components[b]!.path],
          text: `${nameOf(scene, a)} and ${nameOf(scene, b)} touch in ${v.name} and are hatched alike.`,
          fix: 'Hatch both as usual',
        });
    }
    return out;
  },

  fix(f, scene) {
    const view = scene.one('view', f.about[0]);
    if (!view?.cut) return [];
    const paths = f.about.slice(1);
    if (f.code === 'CUT_LENGTHWISE')
      return [{ op: 'put', record: { ...view, cut: { ...view.cut, keptWhole: [...new Set([...view.cut.keptWhole, ...paths])] } } }];
    const hatch = (view.hatch ?? []).flatMap((h) => {
      const of = h.of.filter((p) => !paths.includes(p));
      return of.length ? [{ ...h, of }] : [];
    });
    return [{ op: 'put', record: hatch.length ? { ...view, hatch } : without(view, 'hatch') }];
  },
};

const nameOf = (scene: Scene, c: number): string => {
  const item = scene.itemOf(c);
  return item ? `${numberText(item)} ${item.values.description.text}` : scene.components[c]!.name;
};

/** A fastener, a shaft or the like, which sections leave whole, cut by the plane that it meets. */
function isCutLengthwise(scene: Scene, view: ViewRecord, c: number): boolean {
  const component = scene.components[c]!;
  const part = scene.assembly.parts[component.part]!;
  const f = scene.features(c);
  const turned = f && turnedOf(f, component.placement);
  if (!turned || !view.cut) return false;
  return (
    staysWhole({ name: component.name, role: roleOf(component, part), turned, longest: undefined, sphere: 0, webAlong: undefined }, view.cut) !== undefined
  );
}

/** The axis that most of a part's round surface is about. */
function turnedOf(f: PartFeatures, placement: Placement): TurnedShape | undefined {
  const round = f.rounds.filter((r) => (r.kind === SurfaceKind.cylinder || r.kind === SurfaceKind.cone) && r.to - r.from > 1e-6);
  const area = (r: Round) => r.radius * r.turn * (r.to - r.from);
  const onAxis = (a: Round) =>
    round.filter((r) => Math.abs(Math.abs(dot(r.axis, a.axis)) - 1) < 1e-6 && distanceToLine(r.at, a.at, a.axis) < 1e-3 * (1 + a.radius));
  const groups = round.map(onAxis).map((on) => ({ on, area: on.reduce((sum, r) => sum + area(r), 0) }));
  const best = groups.sort((a, b) => b.area - a.area)[0]?.on;
  if (!best?.[0]) return undefined;
  const { axis, at } = best[0];
  const box = f.box as readonly [number, number, number, number, number, number];
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => dot([box[k & 1 ? 3 : 0], box[k & 2 ? 4 : 1], box[k & 4 ? 5 : 2]], axis));
  const lengthMm = Math.max(...corners) - Math.min(...corners);
  const bore = Math.max(0, ...best.filter((r) => r.inward && r.kind === SurfaceKind.cylinder).map((r) => r.to - r.from));
  const radiusMm = Math.max(0, ...best.filter((r) => !r.inward).map((r) => r.radius));
  // No wider anywhere than its widest cylinder: all of it is turned.
  const reach = Math.max(...[0, 1, 2].map((k) => (Math.abs(axis[k]!) < 0.5 ? box[k + 3]! - box[k]! : 0)));
  return {
    point: applyToPoint(placement, at),
    axis: applyToDirection(placement, axis),
    radiusMm,
    lengthMm,
    share: reach < 2.02 * radiusMm ? 1 : 0,
    bored: lengthMm > 0 ? Math.min(1, bore / lengthMm) : 0,
  };
}

/** Components that touch in a section and look alike there, since someone chose their hatching. */
function alike(scene: Scene, view: ViewRecord): (readonly [number, number])[] {
  if (!view.hatch?.length) return [];
  const { caps } = scene.result(view.id)!;
  const own = new Map(view.hatch.flatMap((h) => h.of.flatMap((p) => scene.component(p)?.index ?? []).map((c) => [c, h] as const)));
  const styles = capStyles(
    caps,
    view.scale,
    (c) => scene.families[c] ?? 'metal',
    (c) => {
      const h = own.get(c);
      return h && h.pattern !== 'none' ? { pattern: h.pattern, angle: h.angle, spacingMm: h.spacingMm } : undefined;
    },
  );
  const look = new Map<number, string>();
  caps.forEach((c, i) => {
    const s = styles[i]!;
    look.set(c.component, s.solid ? 'solid' : JSON.stringify([s.hatch.angle.toFixed(3), s.hatch.spacing.toFixed(2), Boolean(s.also), Boolean(s.dash)]));
  });
  const out: (readonly [number, number])[] = [];
  for (const [a, others] of touchingCaps(caps, view.scale))
    for (const b of others) if (a < b && (own.has(a) || own.has(b)) && look.get(a) === look.get(b)) out.push([a, b]);
  return out;
}
