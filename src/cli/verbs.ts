import { mkdir } from 'node:fs/promises';
import { componentsOf, depthOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { normalize } from '../core/base/vector.ts';
import { cutFromLine, type LineCut } from '../core/cut/section-line.ts';
import { threads } from './threads.ts';
import { dimensions } from './dimensions.ts';
import { proof } from './proof.ts';
import { loadSolidPort } from '../kernel/manifold.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import { paperReport } from '../core/explode/on-paper.ts';
import { planSpread } from '../core/explode/plan.ts';
import { motionsOf, movedBodies } from '../core/explode/spread.ts';
import { DIRECTION_NAMES, frameFrom, namedFrame, type DirectionName } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { viewBox } from '../core/shade/raster.ts';
import { draftToFiles } from './draft.ts';
import { saveSvg } from './save-svg.ts';
import { slice } from './slice.ts';
import { view } from './view.ts';
import type { Arguments } from './arguments.ts';
import { guide } from './guide.ts';
import { verify } from './verify.ts';
import { compare } from './compare.ts';
import { loadModel } from './load.ts';

async function inspect(args: Arguments): Promise<unknown> {
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const bodies = sceneOf(m.assembly, m.geometries);
  const top = viewBox(bodies, namedFrame('top'));
  const front = viewBox(bodies, namedFrame('front'));
  const tree = (parent: number): unknown[] =>
    m.assembly.nodes.flatMap((n, i) =>
      n.parent === parent ? [{ name: n.name, ...(n.part >= 0 ? { part: m.assembly.parts[n.part]!.id } : { children: tree(i) }) }] : [],
    );
  return {
    components: components.length,
    uniqueParts: m.assembly.parts.length,
    depth: depthOf(m.assembly),
    boxMm: [top[2] - top[0], top[3] - top[1], front[3] - front[1]],
    volumeMm3: components.reduce((s, c) => s + m.assembly.parts[c.part]!.volumeMm3, 0),
    unit: m.assembly.unit,
    schema: m.assembly.schema,
    tree: tree(-1),
    warnings: m.assembly.notices,
  };
}

async function cut(args: Arguments): Promise<unknown> {
  const { frame, plane, shape } = cutOf(args);
  const m = await loadModel(args.files, args);
  const names = new Set((args.options.get('keep-whole') ?? '').split(',').filter(Boolean));
  const components = componentsOf(m.assembly);
  const kept = new Set(components.filter((c) => names.has(c.name) || names.has(c.path)).map((c) => c.index));
  const t = performance.now();
  const solids = shape ? await loadSolidPort() : undefined;
  const scene = cutScene(sceneOf(m.assembly, m.geometries), plane, { keptWhole: kept, shape, solids }, frame);
  const cutMs = Math.round(performance.now() - t);
  if (args.options.has('svg')) await saveSvg(args, hiddenLines(scene.bodies, frame));
  const path = (c: number) => components[c]!.path;
  return {
    areaMm2: scene.caps.reduce((s, c) => s + c.areaMm2, 0),
    perComponent: scene.caps.map((c) => ({ path: path(c.component), areaMm2: c.areaMm2, loops: c.loops.length })),
    openLoops: scene.openLoops,
    uncut: scene.uncut.map(path),
    timingsMs: { kernel: Math.round(m.read.times.kernel), mesh: Math.round(m.read.times.read), cut: cutMs },
  };
}

/** `--plane nx,ny,nz,d`, or `--line x,y;x,y;… --on DIRECTION`: a cutting line drawn on a view, mm in its plane. */
function cutOf(args: Arguments): LineCut {
  if (args.options.has('line')) {
    const on = args.options.get('on') as DirectionName;
    const points = args.options
      .get('line')!
      .split(';')
      .map((p) => p.split(',').map(Number));
    if (!DIRECTION_NAMES.includes(on) || points.some((p) => p.length !== 2 || p.some((v) => !Number.isFinite(v))))
      throw new QuarryError('BAD_USAGE', { text: `--line takes points x,y;x,y;… and --on one of ${DIRECTION_NAMES.join(', ')}.` });
    const found = cutFromLine(
      points.map(([x, y]) => [x!, y!]),
      namedFrame(on),
    );
    if ('wrong' in found) throw new QuarryError('BAD_USAGE', { text: found.wrong });
    return found;
  }
  const numbers = (args.options.get('plane') ?? '').split(',').map(Number);
  const l = Math.hypot(numbers[0]!, numbers[1]!, numbers[2]!);
  if (numbers.length !== 4 || numbers.some((v) => !Number.isFinite(v)) || l < 1e-9)
    throw new QuarryError('BAD_USAGE', { text: '--plane takes four numbers nx,ny,nz,d with a direction that has a length.' });
  const normal = normalize([numbers[0]!, numbers[1]!, numbers[2]!]);
  return { frame: frameFrom(normal, Math.abs(normal[2]) > 0.9 ? [0, 1, 0] : [0, 0, 1]), plane: { normal, d: numbers[3]! / l } };
}

async function explode(args: Arguments): Promise<unknown> {
  const m = await loadModel(args.files, args);
  const components = componentsOf(m.assembly);
  const bodies = sceneOf(m.assembly, m.geometries);
  const frame = namedFrame('isometric');
  const t = performance.now();
  const plan = planSpread(m.assembly, bodies, { frame });
  const planned = performance.now() - t;
  // At full size and without a gap: what overlaps is in square millimetres of the model.
  const { touches } = paperReport(bodies, plan.pulls, frame, 1, 0);
  if (args.options.has('svg')) await saveSvg(args, hiddenLines(movedBodies(bodies, motionsOf(plan.pulls, components.length)), frame));
  const path = (c: number) => components[c]!.path;
  return {
    pulls: plan.pulls.map(({ ways: _, ...p }, i) => ({
      ...p,
      components: p.components.map(path),
      hits: plan.hits
        .filter((h) => h.pull === i)
        .map((h) => ({ component: path(h.component), through: path(h.through), fromMm: h.from, toMm: h.to, at: h.at })),
    })),
    order: plan.order.map(path),
    blocked: plan.stuck.flatMap((s) => s.components.map(path)),
    heldBy: plan.stuck.map((s) => ({ components: s.components.map(path), by: s.by.map(path), direction: s.direction })),
    onPaper: { touching: touches.length, pairs: touches.map((x) => [x.first.map(path), x.second.map(path), x.overlapMm2]) },
    timingsMs: { plan: Math.round(planned) },
  };
}

async function draft(args: Arguments): Promise<unknown> {
  const out = args.options.get('out');
  if (!out) throw new QuarryError('BAD_USAGE', { text: 'draft needs --out DIR.' });
  const standard = args.options.get('standard') ?? 'iso';
  if (standard !== 'iso' && standard !== 'asme') throw new QuarryError('BAD_USAGE', { text: '--standard takes iso or asme.' });
  const m = await loadModel(args.files, args);
  await mkdir(out, { recursive: true });
  const sheet = args.options.get('sheet');
  return draftToFiles(m.assembly, m.geometries, { out, standard, ...(sheet ? { sheet } : {}), package: args.options.has('package'), timings: m.read.times });
}

export const VERBS: Readonly<Record<string, (args: Arguments) => Promise<unknown>>> = {
  inspect,
  view,
  cut,
  slice,
  explode,
  draft,
  compare,
  dimensions,
  threads,
  proof,
  guide,
  verify,
};
