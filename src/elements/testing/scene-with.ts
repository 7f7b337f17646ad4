import type { DrawingDocument, DrawingDocumentRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { Scene, type SceneInput } from '../scene.ts';

/** A drafted drawing with records put on it. @throws where the drawing does not take them */
export function sceneWith(drawn: SceneInput, ...records: readonly DrawingDocumentRecord[]): Scene {
  const r = applySteps(
    drawn.document,
    records.map((record) => ({ op: 'put', record })),
  );
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
}
