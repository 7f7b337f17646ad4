import type { Assembly } from '../assembly/assembly.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { firstDrawing, type DraftOptions } from '../draft/first-drawing.ts';
import { featuresSource } from '../features/part-features.ts';
import { recordsOf, type DrawingDocument, type DrawingDocumentRecord } from '../document/records.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene, type SceneInput } from '../../elements/scene.ts';
import { findingsOf } from '../proof/findings.ts';
import { computeView, type ViewResult } from '../views/compute-view.ts';
import { specified } from '../views/view-spec.ts';
import { assemblyOf, box, cylinder } from './shapes.ts';

/** A bracket with a shaft through it, held by a ring on each side, on a plate: seven parts made by hand. */
export function smallMachine() {
  return assemblyOf([
    { name: 'Plate', geometry: box([-60, -40, 0], [60, 40, 8]), material: 'S355', properties: { Source: 'made', 'Drawing number': 'P-1' } },
    { name: 'Block left', geometry: box([-40, -15, 8], [-25, 15, 50]) },
    { name: 'Block right', geometry: box([25, -15, 8], [40, 15, 50]) },
    { name: 'Tower', geometry: box([-10, 20, 8], [10, 35, 70]) },
    { name: 'Post', geometry: cylinder(6, 40), at: [0, -25, 8] },
    { name: 'Ring', geometry: cylinder(11, 5, 32, 6.2), at: [0, -25, 20] },
    { name: 'Cap', geometry: cylinder(9, 6), at: [0, -25, 48] },
  ]);
}

/** Scenes of changed drawings of a model with every view computed, each only once. @param more of the scene, such as a speller */
export function computedScenes({ assembly, geometries }: Pick<ReturnType<typeof assemblyOf>, 'assembly' | 'geometries'>, more: Partial<SceneInput> = {}) {
  const known = new Map<string, ViewResult>();
  return (document: DrawingDocument): Scene => {
    const results = new Map<string, ViewResult>();
    for (const r of recordsOf(document, 'view')) {
      const { spec, text } = specified(r, document, assembly);
      if (!known.has(text)) known.set(text, computeView(assembly, geometries, spec));
      results.set(r.id, known.get(text)!);
    }
    return new Scene({ ...more, document, assembly, results });
  };
}

/** What the first drawing says besides its views: some tests want these alone. */
const isBesides = (r: DrawingDocumentRecord) => r.type === 'centre' || r.type === 'dimension';

/**
 * Drafts, composes and proves in one go.
 * @param options `bare`: without dimensions and centrelines
 */
export async function draftAll(
  input: { assembly: Assembly; geometries: ReadonlyMap<string, PartGeometry> },
  { bare, ...options }: Partial<DraftOptions> & { readonly bare?: boolean } = {},
) {
  const { assembly, geometries } = input;
  const { document: drafted, results } = await firstDrawing(assembly, geometries, {
    date: '2026-01-01',
    compute: async (spec) => computeView(assembly, geometries, spec),
    ...options,
  });
  const document = bare ? Object.fromEntries(Object.entries(drafted).filter(([, r]) => !isBesides(r))) : drafted;
  const features = featuresSource(geometries);
  const scene = new Scene({ document, assembly, results, features });
  const { components, items } = scene;
  const sheets = new Map(scene.sheets.map((s) => [s.id, composeSheet(scene, s.id)]));
  return { assembly, document, results, features, components, items, scene, sheets, findings: findingsOf(scene) };
}
