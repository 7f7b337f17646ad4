import { QuarryError } from '../core/base/errors.ts';
import { changeReport } from '../core/revision/changes.ts';
import { matchAssemblies } from '../core/revision/match.ts';
import { shapeTeller } from '../core/revision/same-shape.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

/** What a newer model changes, part by part. */
export async function compare(args: Arguments): Promise<unknown> {
  const [old, newer, ...more] = args.files;
  if (!old || !newer || more.length) throw new QuarryError('BAD_USAGE', { text: 'compare takes two files: the older model and the newer one.' });
  const [a, b] = [await loadModel([old], args), await loadModel([newer], args)];
  const geometries = new Map([...a.geometries, ...b.geometries]);
  const matching = matchAssemblies(a.assembly, b.assembly, [], shapeTeller(geometries));
  const { changes, unchanged } = changeReport(a.assembly, b.assembly, matching, geometries);
  return {
    changes: changes.map(({ kind, name, text, pieces, mm, degrees, from, to }) => ({
      kind,
      name,
      ...(from === undefined ? {} : { was: from, is: to, from, to }),
      ...(pieces === undefined ? {} : { pieces }),
      ...(mm === undefined ? {} : { mm }),
      ...(degrees === undefined ? {} : { degrees }),
      text,
    })),
    unchanged,
    asked: matching.doubtful.map((d) => ({
      before: a.assembly.parts[d.before]!.name,
      after: b.assembly.parts[d.after]!.name,
      why: d.why,
      assumedTheSame: d.assumed,
    })),
  };
}
