import type { MessagePort } from 'node:worker_threads';
import type { Assembly } from '../../core/assembly/assembly.ts';
import type { DrawingDocument } from '../../core/document/records.ts';
import type { Standard } from '../../core/sheet/formats.ts';
import type { ViewSpec } from '../../core/views/view-spec.ts';

type Packed = readonly (readonly [string, Uint8Array])[];

export interface DraftTask {
  readonly type: 'draft';
  readonly assembly: Assembly;
  readonly geometries: Packed;
  readonly standard: Standard;
  readonly sheet: string | null;
  readonly date: string;
  readonly port: MessagePort | null;
}

export interface DraftResult {
  readonly document: DrawingDocument;
  /** Packed results by key. */
  readonly results: Packed;
  /** Small line drawings by geometry key. */
  readonly pictures: readonly (readonly [string, string])[];
}

export interface ViewTask {
  readonly type: 'view';
  readonly assembly: Assembly;
  readonly geometries: Packed;
  readonly spec: ViewSpec;
}

export interface ExportTask {
  readonly type: 'export';
  readonly kind: 'pdf' | 'svg' | 'csv';
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  /** Packed results by view id. */
  readonly results: Packed;
  readonly fontFile: string;
}

export type GeometryTask = DraftTask | ViewTask | ExportTask;
