import type { StatedSize } from '../../core/assembly/stated.ts';
import { plainText, valueParts } from '../../core/dimension/value.ts';
import type { ValueText } from '../../core/dimension/value.ts';
import type { Finding } from '../../core/proof/finding.ts';
import type { Scene } from '../scene.ts';
import type { Target } from '../target.ts';
import { styleOf } from './draw.ts';
import { measured, type DimensionRecord } from './measure.ts';

/** Values that differ by less than this, as a share, are the same: files round. */
const SAME = 1e-5;

/** Kinds of dimensions that say a size of a kind. */
export const KINDS: Readonly<Record<StatedSize['kind'], readonly DimensionRecord['kind'][]>> = {
  diameter: ['diameter'],
  radius: ['radius'],
  angle: ['angle'],
  length: ['level', 'upright', 'aligned'],
};

/** The sets of faces from one to the other of which it is measured; a width may name both its sides in one. */
export const endsOf = ({ kind, on }: StatedSize): readonly (readonly number[])[] =>
  kind === 'length' && on.length === 1 && on[0]!.length === 2 ? on[0]!.map((f) => [f]) : on;

/** The component and the faces that a target is on. */
function facesOf(t: Target, scene: Scene): { readonly component: string; readonly faces: readonly number[] } | undefined {
  if (t.face) return t.face.lost ? undefined : { component: t.face.component, faces: [t.face.face] };
  const index = t.edge && !t.edge.lost ? scene.component(t.edge.component)?.index : undefined;
  const f = index === undefined ? undefined : scene.features(index);
  return f && { component: t.edge!.component, faces: [0, 1].map((k) => f.edgeFaces[t.edge!.edge * 2 + k]!).filter((n) => n >= 0) };
}

/** What the model itself states of what a dimension measures, if it does. */
export function statedOf(record: Pick<DimensionRecord, 'kind' | 'of'>, scene: Scene): StatedSize | undefined {
  const held = record.of.map((t) => facesOf(t, scene));
  const [first] = held;
  const component = first && scene.component(first.component);
  if (!component || held.some((h) => h?.component !== first.component)) return undefined;
  const touches = (end: readonly number[], i: number) => held[i]!.faces.some((f) => end.includes(f));
  return scene.assembly.parts[component.part]!.stated?.sizes.find((s) => {
    const ends = endsOf(s);
    if (!KINDS[s.kind].includes(record.kind) || ends.length !== held.length) return false;
    return ends.every(touches) || (ends.length === 2 && [ends[1]!, ends[0]!].every(touches));
  });
}

/** Tolerance and form as the model states them. */
export function statedText(s: StatedSize): ValueText {
  const unit = s.kind === 'angle' ? 180 / Math.PI : 1;
  const [lower, upper] = [s.lower, s.upper].map((v) => (v === undefined ? undefined : Number((v * unit).toPrecision(9))));
  const tolerance: ValueText['tolerance'] = s.fit
    ? { kind: 'fit', fit: s.fit, shows: 'both' }
    : lower === undefined || upper === undefined
      ? undefined
      : Math.abs(lower + upper) < 1e-9
        ? { kind: 'equal', mm: upper }
        : { kind: 'limits', upper, lower };
  return { ...(s.form ? { form: s.form } : {}), ...(tolerance ? { tolerance } : {}) };
}

/** Where a dimension says something else than the model states. */
export function againstStated(r: DimensionRecord, sheet: string, scene: Scene): Finding[] {
  const stated = statedOf(r, scene);
  const [m] = (stated && measured(r, scene)) ?? [];
  if (!stated || !m) return [];
  const style = styleOf(r, scene);
  const written = (v: number) => plainText(valueParts(v, stated.kind === 'angle' ? 'angle' : 'length', style));
  const found = (text: string, fix?: string): Finding => ({ code: 'AGAINST_MODEL', severity: 'must', sheet, about: [r.id], text, ...(fix ? { fix } : {}) });
  if (Math.abs(m.value - stated.value) > SAME * Math.max(1, Math.abs(stated.value)))
    return [found(`The model states ${written(stated.value)} where its shape is ${written(m.value)}: ask who made it.`)];
  const tolerance = statedText(stated).tolerance;
  const own = r.text?.tolerance;
  if (tolerance && JSON.stringify(plainTolerance(tolerance)) !== JSON.stringify(plainTolerance(own)))
    return [found(`The model states another tolerance for ${written(m.value)} than this dimension${own ? '' : ', which has none'}.`, 'Take the model’s')];
  return [];
}

/** A tolerance without the way it is written. */
function plainTolerance(t: ValueText['tolerance']): unknown {
  if (!t) return undefined;
  return t.kind === 'fit' ? t.fit : t.kind === 'equal' ? [-t.mm, t.mm] : [t.lower, t.upper];
}
