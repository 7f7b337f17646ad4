import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { firstDrawing } from '../core/draft/first-drawing.ts';
import { axesOf, kindOfAxis, radiiOf } from '../core/features/axes.ts';
import { reachOf } from '../core/features/extent.ts';
import { featuresOf, featuresSource } from '../core/features/part-features.ts';
import { plainText } from '../core/dimension/value.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { computeView } from '../core/views/compute-view.ts';
import { valuesOf } from '../elements/dimension/draw.ts';
import { Scene } from '../elements/scene.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

const AXES = ['x', 'y', 'z'] as const;
/** Zeros of the eleventh decimal are noise. */
const clean = (v: number) => Math.round(v * 1e9) / 1e9 + 0;

/** Overall sizes and axes of a model by its exact geometry, and the dimensions that its first drawing would carry. */
export async function dimensions(args: Arguments): Promise<unknown> {
  const unit = args.options.get('unit') ?? 'mm';
  if (unit !== 'mm' && unit !== 'inch') throw new QuarryError('BAD_USAGE', { text: '--unit takes mm or inch here: the unit in which values are written.' });
  const m = await loadModel(args.files, { ...args, options: new Map([...args.options].filter(([k]) => k !== 'unit')) });
  const components = componentsOf(m.assembly);
  const bodies = sceneOf(m.assembly, m.geometries);
  const overallMm = AXES.map((_, i) => {
    const reach = reachOf(bodies, [i === 0 ? 1 : 0, i === 1 ? 1 : 0, i === 2 ? 1 : 0]);
    return reach ? clean(reach[1] - reach[0]) : 0;
  });
  const placed = components.map((c) => ({
    component: c.index,
    placement: c.placement,
    features: featuresOf(m.geometries.get(m.assembly.parts[c.part]!.geometryKey)!),
  }));
  const axes = axesOf(placed).flatMap((a) => {
    const along = a.way.findIndex((v) => v > 1 - 1e-9);
    const direction = AXES[along];
    if (!direction) return [];
    return [
      {
        direction,
        atMm: a.foot.filter((_, i) => i !== along).map(clean),
        radiiMm: radiiOf(a).map(clean),
        kind: kindOfAxis(a),
        components: [...new Set(a.on.map((o) => components[o.component]!.path))],
      },
    ];
  });
  const { document, results } = await firstDrawing(m.assembly, m.geometries, {
    date: '',
    only: 'arrangement',
    ...(unit === 'inch' ? { values: { unit: 'inch' as const } } : {}),
    compute: async (spec) => computeView(m.assembly, m.geometries, spec),
  });
  const scene = new Scene({ document, assembly: m.assembly, results, features: featuresSource(m.geometries) });
  const proposed = scene.all('dimension').flatMap((d) =>
    valuesOf(d, scene).map((v) => ({
      view: scene.one('view', d.view)!.name,
      kind: d.kind,
      valueMm: clean(v.measured.value),
      text: plainText(v.parts),
      refs: d.of.map((t) => t.face?.component ?? t.edge?.component ?? t.of ?? t.side ?? ''),
    })),
  );
  return { overallMm, axes, proposed };
}
