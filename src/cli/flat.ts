import { writeFile } from 'node:fs/promises';
import { QuarryError } from '../core/base/errors.ts';
import { wrapOf, type Wrap } from '../core/flat/tube.ts';
import { unfold, type FlatPattern } from '../core/flat/unfold.ts';
import { flatAsSvg } from '../formats/flat-svg.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

const DEGREES = 180 / Math.PI;

/** Flat patterns of the bent sheet parts of a model, and why its other parts are none. */
export async function flat(args: Arguments): Promise<unknown> {
  const k = args.options.has('k') ? Number(args.options.get('k')) : undefined;
  if (k !== undefined && !(k >= 0 && k <= 1)) throw new QuarryError('BAD_USAGE', { text: '--k takes a share of the thickness between 0 and 1, such as 0.44.' });
  const m = await loadModel(args.files, args);
  const wanted = args.options.get('part');
  const parts = m.assembly.parts.filter((p) => wanted === undefined || p.name === wanted || p.id === wanted);
  if (!parts.length)
    throw new QuarryError('BAD_USAGE', { text: `--part: there is no part “${wanted}”. There are: ${m.assembly.parts.map((p) => p.name).join(', ')}.` });
  const patterns: { name: string; flat: FlatPattern }[] = [];
  const tubes: { name: string; wrap: Wrap }[] = [];
  const notSheet: { name: string; why: string }[] = [];
  for (const p of parts) {
    const geometry = m.geometries.get(p.geometryKey)!;
    const found = unfold(geometry, k);
    const round = 'flat' in found ? undefined : wrapOf(geometry);
    if (round && 'wrap' in round) tubes.push({ name: p.name, wrap: round.wrap });
    if ('flat' in found) patterns.push({ name: p.name, flat: found.flat });
    else notSheet.push({ name: p.name, why: found.why });
  }
  const out = args.options.get('svg');
  const cut = [...patterns, ...tubes.map(({ name, wrap }) => ({ name, flat: wrap.pattern }))];
  if (out)
    for (const [i, { name, flat: pattern }] of cut.entries())
      await writeFile(cut.length > 1 ? out.replace(/(\.svg)?$/i, `-${i + 1}.svg`) : out, flatAsSvg(name, pattern));
  return {
    parts: patterns.map(({ name, flat: f }) => ({
      name,
      thicknessMm: f.thicknessMm,
      flatMm: f.sizeMm,
      areaMm2: f.areaMm2,
      bends: f.bends.map((b) => ({ angleDeg: b.angle * DEGREES, radiusMm: b.radiusMm, lengthMm: b.lengthMm, up: b.up, allowanceMm: b.allowanceMm })),
    })),
    notSheet,
    tubes: tubes.map(({ name, wrap: w }) => ({
      name,
      outerMm: w.diameterMm,
      wallMm: w.wallMm,
      lengthMm: w.lengthMm,
      endsDeg: w.ends.map((e) => (e === null ? null : e * DEGREES)),
      wrapMm: w.pattern.sizeMm,
    })),
  };
}
