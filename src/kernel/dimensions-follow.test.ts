import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import { applySteps } from '../core/document/steps.ts';
import { firstDrawing } from '../core/draft/first-drawing.ts';
import { featuresSource } from '../core/features/part-features.ts';
import { findingsOf } from '../core/proof/findings.ts';
import { edgeFinder, faceFinder } from '../core/revision/edges.ts';
import { matchAssemblies } from '../core/revision/match.ts';
import { shapeTeller } from '../core/revision/same-shape.ts';
import { takeOver } from '../core/revision/take-over.ts';
import { computeView } from '../core/views/compute-view.ts';
import { specOf } from '../core/views/view-spec.ts';
import { textOf } from '../elements/dimension/draw.ts';
import { Scene } from '../elements/scene.ts';
import { readOnce } from './testing/shared-kernel.ts';

// The two revisions of the demo: the second has a longer boom and a longer crank, among other things (demo/winch.ts).
test('dimensions of the first drawing follow a newer model: values are measured anew, what changed is said, nothing is lost', async () => {
  const geometries = new Map<string, PartGeometry>();
  const read = async (name: string) => {
    const { assembly, geometries: own } = await readOnce([{ name, bytes: new Uint8Array(readFileSync(`demo/${name}`)) }]);
    for (const [key, g] of own) geometries.set(key, g);
    return assembly;
  };
  const [before, after] = [await read('sw-40-rev1.step'), await read('sw-40-rev2.step')];
  const draft = await firstDrawing(before, geometries, { date: '', only: 'arrangement', compute: async (spec) => computeView(before, geometries, spec) });
  const old = new Scene({ document: draft.document, assembly: before, results: draft.results, features: featuresSource(geometries) });
  const matching = matchAssemblies(before, after, [], shapeTeller(geometries));
  const model = { type: 'model', id: 'model', model: '00000000-0000-4000-8000-000000000001', name: 'rev 2' } as const;
  const taken = takeOver(before, after, draft.document, matching, model, { edges: edgeFinder(geometries), faces: faceFinder(geometries) });
  const applied = applySteps(draft.document, taken.steps);
  if (!applied.ok) throw new Error(applied.reason);
  const { document } = applied;
  const bare = new Scene({ document, assembly: taken.assembly, results: new Map(), features: featuresSource(geometries) });
  const results = new Map(bare.all('view').map((v) => [v.id, computeView(taken.assembly, geometries, specOf(v, document, bare.components))]));
  const now = new Scene({ document, assembly: taken.assembly, results, features: featuresSource(geometries) });
  const texts = (s: Scene) => s.all('dimension').map((d) => `${d.id} ${textOf(d, s)}`);
  expect(texts(old).some((t) => t.endsWith(' 653'))).toBe(true);
  expect(texts(now).some((t) => t.endsWith(' 733'))).toBe(true);
  expect(taken.losses.filter((l) => l.record.startsWith('dimension'))).toEqual([]);
  expect(texts(now)).toHaveLength(texts(old).length);
  for (const d of now.all('dimension')) expect(textOf(d, now)).not.toBe('');
  // Exactly those that say something else than before are told to be looked at.
  const changed = old.all('dimension').filter((d) => textOf(d, old) !== textOf(now.one('dimension', d.id)!, now));
  const told = findingsOf(now).filter((f) => f.code === 'CHANGED_VALUE');
  expect(changed.length).toBeGreaterThan(0);
  expect(told.flatMap((f) => f.about).sort()).toEqual(changed.map((d) => d.id).sort());
});
