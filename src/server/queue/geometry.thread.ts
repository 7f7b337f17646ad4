import { readFileSync } from 'node:fs';
import { componentsOf } from '../../core/assembly/components.ts';
import { unpackGeometry } from '../../core/assembly/geometry-codec.ts';
import type { PartGeometry } from '../../core/assembly/part-geometry.ts';
import { IDENTITY } from '../../core/base/placement.ts';
import { recordsOf, sheetsOf, type DrawingDocument } from '../../core/document/records.ts';
import { firstDrawing } from '../../core/draft/first-drawing.ts';
import { itemsOf } from '../../core/ledger/items.ts';
import { namedFrame } from '../../core/outline/directions.ts';
import { hiddenLines } from '../../core/outline/hidden-lines.ts';
import { composeSheet } from '../../core/picture/compose.ts';
import { computeView, type ViewResult } from '../../core/views/compute-view.ts';
import { packResult, unpackResult } from '../../core/views/result-codec.ts';
import { QuarryError } from '../../core/base/errors.ts';
import { linesAsSvg } from '../../formats/lines-svg.ts';
import { listAsCsv, sheetsAsPdf, sheetsAsSvg } from '../../formats/drawing-files.ts';
import { viewKey } from '../view-key.ts';
import type { DraftTask, ExportTask, GeometryTask, ViewTask } from './geometry-tasks.ts';

/** Errors cross to the caller as data: their class would be lost on the way. */
export default async function run(task: GeometryTask): Promise<unknown> {
  try {
    switch (task.type) {
      case 'draft':
        return await draft(task);
      case 'view':
        return view(task);
      case 'export':
        return await exportFile(task);
    }
  } catch (e) {
    if (e instanceof QuarryError) return { failed: e.code, details: e.details };
    throw e;
  }
}

const open = (packed: DraftTask['geometries']): Map<string, PartGeometry> => new Map(packed.map(([k, b]) => [k, unpackGeometry(b)!]));

async function draft(task: DraftTask) {
  const geometries = open(task.geometries);
  const components = componentsOf(task.assembly);
  const stored = new Map<string, Uint8Array>();
  const done = await firstDrawing(task.assembly, geometries, {
    standard: task.standard,
    ...(task.sheet ? { sheet: task.sheet } : {}),
    date: task.date,
    compute: async (spec) => {
      const result = computeView(task.assembly, geometries, spec);
      stored.set(viewKey(spec, task.assembly, components), packResult(result));
      return result;
    },
    onProgress: (at, total, what) => task.port?.postMessage({ at, total, what }),
  });
  const pictures = [...geometries].map(
    ([key, geometry]) => [key, linesAsSvg(hiddenLines([{ component: 0, geometry, placement: IDENTITY }], namedFrame('isometric')), 45)] as const,
  );
  return { document: done.document, results: [...stored], pictures };
}

function view(task: ViewTask): Uint8Array {
  return packResult(computeView(task.assembly, open(task.geometries), task.spec));
}

async function exportFile(task: ExportTask): Promise<readonly Uint8Array[]> {
  const { assembly } = task;
  const document: DrawingDocument = task.document;
  const results = new Map<string, ViewResult>(task.results.map(([id, b]) => [id, unpackResult(b)!]));
  const components = componentsOf(assembly);
  const text = (s: string) => new TextEncoder().encode(s);
  if (task.kind === 'csv') return [text(listAsCsv(recordsOf(document, 'list')[0]?.columns, itemsOf(assembly, document)))];
  const sheets = sheetsOf(document).map((s) => composeSheet({ document, assembly, components, results }, s.id));
  const font = new Uint8Array(readFileSync(task.fontFile));
  return task.kind === 'pdf' ? [await sheetsAsPdf(document, sheets, results, font)] : sheetsAsSvg(sheets, results, font).map(text);
}
