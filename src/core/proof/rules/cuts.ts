import { numberText } from '../../ledger/items.ts';
import type { Scene } from '../../../elements/scene.ts';
import { applyToDirection, applyToPoint } from '../../base/placement.ts';
import { dot } from '../../base/vector.ts';
import { capStyles, touchingCaps } from '../../cut/hatch-styles.ts';
import type { ViewRecord } from '../../document/records.ts';
import { without } from '../../base/without.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

const HOLDING = /\b(bolt|screw|nut|washer|rivet|pin|key|stud|cotter|schraube|mutter|scheibe|stift|passfeder)\b/i;
/** The plane runs along an axis that is nearer to it than this share of the radius. */
const NEAR_AXIS = 0.5;

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

/** A fastener, or what is a solid cylinder for the most part, whose axis lies in the plane. */
function isCutLengthwise(scene: Scene, view: ViewRecord, c: number): boolean {
  const component = scene.components[c]!;
  const part = scene.assembly.parts[component.part]!;
  const f = scene.features(c);
  if (!f || !view.cut) return false;
  const holding = HOLDING.test(part.name) || HOLDING.test(component.name) || /nut|bolt|washer/.test(part.looksLike ?? '');
  const outside = f.rounds.filter((r) => !r.inward && r.to - r.from > 1e-6);
  const widest = outside.sort((a, b) => b.radius - a.radius)[0];
  const longest = [...outside].sort((a, b) => b.to - b.from - (a.to - a.from))[0];
  if (!widest || !longest) return false;
  const [b0, b1, b2, b3, b4, b5] = f.box as readonly [number, number, number, number, number, number];
  const extent = [b3 - b0, b4 - b1, b5 - b2];
  const along = Math.max(...extent.map((e, k) => e * Math.abs(longest.axis[k]!)));
  const solid = part.volumeMm3 > 0.8 * Math.PI * widest.radius ** 2 * along;
  const slender = along > 3 * widest.radius;
  if (!(holding || (solid && slender))) return false;
  const axis = applyToDirection(component.placement, longest.axis);
  const at = applyToPoint(component.placement, longest.at);
  const { normal, d } = view.cut;
  return Math.abs(dot(axis, normal)) < 1e-3 && Math.abs(dot(at, normal) - d) < NEAR_AXIS * longest.radius;
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
