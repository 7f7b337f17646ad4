import { readFile } from 'node:fs/promises';
import type { PartGeometry } from '../core/assembly/part-geometry.ts';
import type { Assembly } from '../core/assembly/assembly.ts';
import { QuarryError } from '../core/base/errors.ts';
import { readDrawing } from '../core/document/file.ts';
import { recordsOf, type DrawingDocument } from '../core/document/records.ts';
import { firstDrawing } from '../core/draft/first-drawing.ts';
import { spreadHits } from '../core/explode/spread-hits.ts';
import { featuresSource } from '../core/features/part-features.ts';
import { isModelled } from '../core/ledger/items.ts';
import { coverageCells, coverageOf, itemsAbout } from '../core/proof/coverage.ts';
import { findingsOf } from '../core/proof/findings.ts';
import { computeView, type ViewResult } from '../core/views/compute-view.ts';
import { specified } from '../core/views/view-spec.ts';
import { Scene } from '../elements/scene.ts';
import { englishSpeller } from '../formats/speller.ts';
import { loadSolidPort } from '../kernel/manifold.ts';
import type { Arguments } from './arguments.ts';
import { loadModel } from './load.ts';

/** What a checker would mark of a drawing: of the one that is given, or of the first drawing of a model. */
export async function proof(args: Arguments): Promise<unknown> {
  const file = args.options.get('drawing');
  const document = file === undefined ? undefined : await drawingIn(file);
  const m = await loadModel(args.files, args);
  const { document: drawn, results } = document
    ? { document, results: await resultsOf(document, m.assembly, m.geometries) }
    : await firstDrawing(m.assembly, m.geometries, {
        date: new Date().toISOString().slice(0, 10),
        compute: async (spec) => computeView(m.assembly, m.geometries, spec),
      });
  const start = performance.now();
  const hits = spreadHits(drawn, m.assembly, m.geometries);
  const t = performance.now();
  const scene = new Scene({
    document: drawn,
    assembly: m.assembly,
    results,
    features: featuresSource(m.geometries),
    speller: englishSpeller(),
    hits,
  });
  const findings = findingsOf(scene);
  const coverage = coverageOf(scene);
  const ms = Math.round(performance.now() - t);
  return {
    findings: findings.map((f) => ({
      code: f.code,
      severity: f.severity,
      sheet: f.sheet,
      about: f.about,
      items: itemsAbout(scene, f.about),
      text: f.text,
      fix: f.fix !== undefined,
      ...(f.accepted ? { accepted: f.accepted } : {}),
    })),
    coverage: coverageCells(scene).map((c) => ({ item: c.item, view: c.view, visibleMm2: c.visibleMm2, share: c.share })),
    identified: scene.items.filter((item, i) => isModelled(item) && coverage.best(i) === 'identified').length,
    total: scene.items.filter(isModelled).length,
    timingsMs: { ways: Math.round(t - start), proof: ms },
  };
}

async function drawingIn(file: string): Promise<DrawingDocument> {
  let text: string;
  try {
    text = await readFile(file, 'utf8');
  } catch {
    throw new QuarryError('BAD_USAGE', { text: `--drawing: “${file}” cannot be read.` });
  }
  const read = readDrawing(text);
  if ('wrong' in read) throw new QuarryError('BAD_REQUEST', { text: read.wrong });
  return read.document;
}

/** The views of a drawing, each computed once. */
async function resultsOf(
  document: DrawingDocument,
  assembly: Assembly,
  geometries: ReadonlyMap<string, PartGeometry>,
): Promise<ReadonlyMap<string, ViewResult>> {
  const known = new Map<string, ViewResult>();
  const out = new Map<string, ViewResult>();
  for (const v of recordsOf(document, 'view')) {
    const { spec, text } = specified(v, document, assembly);
    const solids = spec.cut?.shape ? await loadSolidPort() : undefined;
    const result = known.get(text) ?? computeView(assembly, geometries, spec, undefined, solids);
    known.set(text, result);
    out.set(v.id, result);
  }
  return out;
}
