import type { PullRecord } from '$core/document/records';
import type { Drawing } from '../shared/drawing.svelte';

/** Sets of more components are shown by the first of them. */
const MOST = 150;

/** Address of a small picture of what a pull moves: the part, or the parts as they stand together. */
export function pullPicture(drawing: Drawing, pull: PullRecord): string {
  const index = new Map(drawing.components.map((c) => [c.path, c]));
  const own = pull.components.flatMap((path) => index.get(path) ?? []);
  const keyOf = (part: number) => drawing.assembly.parts[part]!.geometryKey;
  const first = own[0];
  if (!first) return '';
  if (own.length > MOST || own.every((c) => c.part === first.part)) return `/api/parts/${keyOf(first.part)}`;
  // Another model has another picture.
  return `/api/jobs/${drawing.id}/picture?of=${own.map((c) => c.index).join()}&model=${drawing.model}`;
}
