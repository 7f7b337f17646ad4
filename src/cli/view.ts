import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import { planSpread } from '../core/explode/plan.ts';
import type { Pull } from '../core/explode/spread.ts';
import { itemsOf } from '../core/ledger/items.ts';
import { DIRECTION_NAMES, namedFrame, turnedModel, type DirectionName } from '../core/outline/directions.ts';
import { lengthsOf } from '../core/outline/linework.ts';
import { sceneOf } from '../core/outline/scene-of.ts';
import { computeView } from '../core/views/compute-view.ts';
import type { Gap, Outline } from '../core/views/outline.ts';
import { extentOf, partOfView } from '../core/views/part-of-view.ts';
import type { Arguments } from './arguments.ts';
import { centrelinesOf } from './centrelines.ts';
import { leftOutOf } from './choice.ts';
import { loadModel } from './load.ts';
import { numbersOf } from './numbers.ts';
import { saveSvg } from './save-svg.ts';

/** The lines of a view, or of the part of it that is asked for. */
export async function view(args: Arguments): Promise<unknown> {
  const direction = args.options.get('direction') as DirectionName | undefined;
  if (!direction || !DIRECTION_NAMES.includes(direction))
    throw new QuarryError('BAD_USAGE', { text: `--direction takes one of ${DIRECTION_NAMES.join(', ')}.` });
  const turn = args.options.has('turn') ? numbersOf('turn', args.options.get('turn')!, 3) : [0, 0, 0];
  const part = { within: withinOf(args), gaps: gapsOf(args) };
  const m = await loadModel(args.files, args);
  const leftOut = leftOutOf(args, m.assembly);
  const degrees = Math.PI / 180;
  const frame = turnedModel(namedFrame(direction), [turn[0]! * degrees, turn[1]! * degrees, turn[2]! * degrees]);
  const bodies = sceneOf(m.assembly, m.geometries);
  const gone = new Set(leftOut);
  const shown = new Set(componentsOf(m.assembly).flatMap((c) => (gone.has(c.index) ? [] : [c.index])));
  const pulls: readonly Pull[] = args.options.has('spread') ? planSpread(m.assembly, bodies, { frame, ...(gone.size ? { only: shown } : {}) }).pulls : [];
  const t = performance.now();
  const whole = computeView(m.assembly, m.geometries, {
    frame,
    hidden: args.options.has('hidden'),
    tangent: args.options.has('tangent'),
    shaded: false,
    cut: null,
    spread: { pulls, lines: false, linesOff: [] },
    ...(leftOut.length ? { leftOut } : {}),
  });
  const outline = performance.now() - t;
  const result = partOfView(whole, part);
  const isPart = part.within !== undefined || part.gaps.length > 0;
  const extent = isPart ? extentOf(result.lines, part.gaps) : [...result.box];
  await saveSvg(args, result.lines);
  const perPixel = result.map.window.pixelMm ** 2;
  return {
    lengthsMm: lengthsOf(result.lines),
    segments: result.lines.xy.length / 2 - result.lines.kind.length,
    runs: result.lines.kind.length,
    boxMm: [extent[2]! - extent[0]!, extent[3]! - extent[1]!],
    extentMm: extent,
    items: itemsOf(m.assembly, {})
      .filter((i) => i.components.some((c) => shown.has(c)))
      .map((i) => ({
        item: i.number,
        name: i.values.description.text,
        visiblePx: Math.round(i.components.reduce((s, c) => s + result.visibleArea[c]!, 0) / perPixel),
      })),
    ...(args.options.has('centrelines') && !pulls.length ? { centrelines: centrelinesOf({ ...m, frame, result, hidden: args.options.has('hidden') }) } : {}),
    timingsMs: { kernel: Math.round(m.read.times.kernel), mesh: Math.round(m.read.times.read), outline: Math.round(outline) },
  };
}

/** `--within 'x,y;x,y;…'`: a closed outline in the view, mm. */
function withinOf(args: Arguments): Outline | undefined {
  const text = args.options.get('within');
  if (text === undefined) return undefined;
  const points = text
    .split(';')
    .filter((t) => t.trim())
    .map((p) => numbersOf('within', p, 2) as unknown as readonly [number, number]);
  const area = points.reduce((s, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return s + p[0] * q[1] - q[0] * p[1];
  }, 0);
  if (points.length < 3 || Math.abs(area) < 1e-9)
    throw new QuarryError('BAD_USAGE', { text: '--within takes three points x,y;x,y;x,y or more, around some area.' });
  return { kind: 'free', points };
}

/** `--interrupt x:a,b` or `y:a,b`, several with semicolons between them: stretches that are left out, mm. */
function gapsOf(args: Arguments): Gap[] {
  const text = args.options.get('interrupt');
  if (text === undefined) return [];
  return text.split(';').map((one) => {
    const [axis, ends] = one.split(':').map((t) => t.trim());
    if ((axis !== 'x' && axis !== 'y') || ends === undefined) throw new QuarryError('BAD_USAGE', { text: '--interrupt takes x:a,b or y:a,b.' });
    const [a, b] = numbersOf('interrupt', ends, 2) as [number, number];
    if (a === b) throw new QuarryError('BAD_USAGE', { text: '--interrupt takes two different places.' });
    return { axis, from: Math.min(a, b), to: Math.max(a, b) };
  });
}
