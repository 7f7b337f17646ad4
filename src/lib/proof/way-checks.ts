import type { SpreadRecord } from '$core/document/records';
import { plainPull, pullsOf } from '$core/explode/records';
import type { CheckAnswer } from '$core/explode/requests';
import type { SpreadHit } from '$core/proof/prover';
import { compute } from '$lib/explode/compute';
import type { Drawing } from '$lib/shared/drawing.svelte';

/** A spread that is being changed is checked when its last change is so old, ms. */
const QUIET_MS = 700;

/** Has the ways of spreads checked on the server, each again when it changes. What cannot be asked is not known: nothing is said of it. */
export class WayChecks {
  private readonly known = new Map<string, SpreadRecord>();
  private readonly running = new Map<string, AbortController>();
  private readonly drawing: Drawing;
  private readonly tell: (spread: string, hits: readonly SpreadHit[]) => void;

  constructor(drawing: Drawing, tell: (spread: string, hits: readonly SpreadHit[]) => void) {
    [this.drawing, this.tell] = [drawing, tell];
  }

  follow(spreads: readonly SpreadRecord[]): void {
    for (const s of spreads)
      if (this.known.get(s.id)?.pulls !== s.pulls) {
        this.known.set(s.id, s);
        void this.check(s);
      }
  }

  private async check(spread: SpreadRecord): Promise<void> {
    this.running.get(spread.id)?.abort();
    const stop = new AbortController();
    this.running.set(spread.id, stop);
    await new Promise((done) => setTimeout(done, QUIET_MS));
    if (stop.signal.aborted) return;
    const pulls = pullsOf(spread, this.drawing.scene.components).map(plainPull);
    try {
      const { hits } = await compute<CheckAnswer>(this.drawing.id, { kind: 'check', pulls }, stop.signal);
      this.tell(spread.id, hits);
    } catch {
      // The next change of it, or the next visit, asks again.
      if (!stop.signal.aborted) this.known.delete(spread.id);
    }
  }

  stop(): void {
    for (const s of this.running.values()) s.abort();
  }
}
