import type { DrawingDocument } from '$core/document/records';
import type { OpenRemark, Proved } from '$core/proof/prover';
import type { ViewResult } from '$core/views/compute-view';
import { call } from '$lib/shared/api';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { marksOf, NO_MARKS, type Marks } from './marks';
import { changeBetween, type Told } from './proof-line';
import { WayChecks } from './way-checks';

/** Remarks that wait for an answer; none where the server cannot be asked. */
async function openRemarks(job: string): Promise<OpenRemark[]> {
  try {
    const { remarks } = await call<{ remarks: (OpenRemark & { answer: string | null })[] }>(`/api/jobs/${job}/remarks`);
    return remarks.filter((r) => r.answer === null).map(({ id, revision, step, text, who, part }) => ({ id, revision, step, text, who, part }));
  } catch {
    return [];
  }
}

/** The proof of the open drawing as it stands, worked out beside the page. */
export class Proof {
  proved = $state.raw<Proved | undefined>(undefined);
  /** Where what is open is: on sheets, in views, of items. */
  marks = $state.raw<Marks>(NO_MARKS);
  readonly counts = $derived.by(() => {
    const open = (this.proved?.findings ?? []).filter((f) => !f.accepted && f.code !== 'VIEW_MISSING');
    const count = (s: string) => open.filter((f) => f.severity === s).length;
    return { must: count('must'), should: count('should'), look: count('look') };
  });

  /** Begins to follow the drawing. Browser only. @param ways the ways of spreads are checked too: work for the server @returns how to stop */
  follow(drawing: Drawing, { ways = false } = {}): () => void {
    let stop: (() => void) | undefined;
    let over = false;
    void import('./proof.worker?worker').then(({ default: ProofWorker }) => {
      if (!over) stop = this.begin(drawing, new ProofWorker(), ways);
    });
    return () => {
      over = true;
      stop?.();
    };
  }

  private begin(drawing: Drawing, worker: Worker, ways: boolean): () => void {
    const tell = (told: Told) => worker.postMessage(told);
    worker.onmessage = (m: MessageEvent<Proved>) => {
      this.proved = m.data;
      this.marks = marksOf(m.data, drawing.document);
    };
    tell({ kind: 'model', assembly: $state.snapshot(drawing.assembly) as typeof drawing.assembly });
    void openRemarks(drawing.id).then((remarks) => remarks.length && tell({ kind: 'remarks', remarks }));
    let document: DrawingDocument = {};
    const sent = new Map<string, ViewResult>();
    let features: unknown;
    const checks = new WayChecks(drawing, (spread, hits) => tell({ kind: 'hits', spread, hits }));
    const stop = $effect.root(() => {
      $effect(() => {
        if (ways) checks.follow(drawing.scene.all('spread'));
      });
      $effect(() => {
        if (drawing.features && drawing.features !== features) {
          features = drawing.features;
          tell({ kind: 'features', features: drawing.features });
        }
      });
      $effect(() => {
        for (const [view, result] of drawing.results) {
          if (sent.get(view) === result) continue;
          sent.set(view, result);
          tell({ kind: 'result', view, result });
        }
      });
      $effect(() => {
        const change = changeBetween(document, drawing.document);
        document = drawing.document;
        if (change) tell({ kind: 'change', change });
      });
    });
    return () => {
      stop();
      checks.stop();
      worker.terminate();
    };
  }
}
