import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { normalize } from '../core/base/vector.ts';
import { cutScene } from '../core/cut/cut-scene.ts';
import { cutFromLine, type LineCut } from '../core/cut/section-line.ts';
import { DIRECTION_NAMES, frameFrom, namedFrame, type DirectionName } from '../core/outline/directions.ts';
import { hiddenLines } from '../core/outline/hidden-lines.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { loadSolidPort } from '../kernel/manifold.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';
import { saveSvg } from './save-svg.ts';

/** Areas of a section. */
export async function cut(args: Arguments): Promise<unknown> {
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
