import type { Assembly } from '$core/assembly/assembly';
import type { DrawingDocument } from '$core/document/records';
import type { PartFeatures } from '$core/features/part-features';
import type { OpenRemark, ProofChange, SpreadHit } from '$core/proof/prover';
import type { ViewResult } from '$core/views/compute-view';

/** What the page tells the worker that proves its drawing. */
export type Told =
  | { readonly kind: 'model'; readonly assembly: Assembly }
  | { readonly kind: 'features'; readonly features: ReadonlyMap<string, PartFeatures> }
  | { readonly kind: 'remarks'; readonly remarks: readonly OpenRemark[] }
  | { readonly kind: 'hits'; readonly spread: string; readonly hits: readonly SpreadHit[] }
  | { readonly kind: 'result'; readonly view: string; readonly result: ViewResult }
  | { readonly kind: 'change'; readonly change: ProofChange };

/** What is other in a document than in the one before; undefined when nothing is. Records are replaced, never changed. */
export function changeBetween(before: DrawingDocument, after: DrawingDocument): ProofChange | undefined {
  if (before === after) return undefined;
  const put = Object.values(after).filter((r) => before[r.id] !== r);
  const drop = Object.keys(before).filter((id) => !(id in after));
  return put.length || drop.length ? { put, drop } : undefined;
}
