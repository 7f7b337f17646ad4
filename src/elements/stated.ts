import type { DrawingDocument, ViewRecord } from '../core/document/records.ts';
import { statedDimensions } from './dimension/propose-stated.ts';
import type { ElementRecord } from './kinds.ts';
import type { Scene } from './scene.ts';
import { statedSigns } from './sign/propose-stated.ts';

/** Everything that the model states of its sizes as records, as far as the views show it and it is not there yet. */
export function statedRecords(scene: Scene, views: readonly ViewRecord[], freshId: (type: 'dimension' | 'sign') => string): ElementRecord[] {
  const sizes = statedDimensions(scene, views, () => freshId('dimension'));
  const document: DrawingDocument = { ...scene.document, ...Object.fromEntries(sizes.map((r) => [r.id, r])) };
  return [...sizes, ...statedSigns(scene.with(document), views, () => freshId('sign'))];
}
