import { cureScale, cureSteps, detailOf } from '$core/proof/cure-steps';
import type { ShownCure } from '$core/proof/cure-search';
import type { ViewRecord } from '$core/document/records';
import type { Item } from '$core/ledger/items';
import { ApiFailure } from '$lib/shared/api';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import { streamed } from '$lib/shared/streamed';

/** A way to show an item, as it is offered. */
export interface Offer {
  readonly name: string;
  /** What would be seen of it on paper, mm², and the share of its outline. */
  readonly visibleMm2: number;
  readonly share: number;
  readonly scale: number;
  /** A picture as a data URI; of a detail the record whose picture is drawn. */
  readonly picture?: string;
  readonly detail?: ViewRecord;
  readonly found?: ShownCure;
}

/** Ways to show one item: details are known from the views that there are, the rest is looked for on the server. */
export class Cures {
  part = $state<string | undefined>(undefined);
  progress = $state<number | undefined>(undefined);
  private found = $state.raw<readonly ShownCure[]>([]);
  private stop: AbortController | undefined;
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  readonly item: Item | undefined = $derived.by(() => this.drawing.items.find((i) => i.part === this.part));

  /** What is offered, that which shows most of it first. */
  readonly offers: readonly Offer[] = $derived.by(() => {
    const { part, drawing } = this;
    if (part === undefined) return [];
    const { scene } = drawing;
    const detail = detailOf(scene, part, 'view:proposed');
    const offers = this.found.map((found): Offer => {
      const { scale, within } = cureScale(scene, found);
      const name = within ? `${found.name}, only around it` : found.name;
      return { name, scale, visibleMm2: found.areaMm2 * scale * scale, share: found.share, picture: found.picture, found };
    });
    if (detail) {
      const { record, areaMm2, share } = detail;
      const of = scene.one('view', record.detail?.of ?? undefined)?.name ?? '';
      offers.unshift({ name: `Detail of ${of}`, scale: record.scale, visibleMm2: areaMm2 * record.scale ** 2, share, detail: record });
    }
    return offers.sort((a, b) => worth(b) - worth(a));
  });

  async look(part: string): Promise<void> {
    this.close();
    this.part = part;
    const stop = (this.stop = new AbortController());
    this.progress = 0;
    try {
      const found = await streamed<ShownCure[]>(`/api/jobs/${this.drawing.id}/cures`, { part }, stop.signal, (m) => (this.progress = m.progress));
      if (this.stop === stop) this.found = found;
    } catch (e) {
      if (!stop.signal.aborted) notify('trouble', e instanceof ApiFailure ? e.message : 'No way could be looked for.');
    } finally {
      if (this.stop === stop) this.progress = undefined;
    }
  }

  close(): void {
    this.stop?.abort();
    this.stop = undefined;
    this.part = undefined;
    this.progress = undefined;
    this.found = [];
  }

  take(o: Offer): void {
    const { drawing, item } = this;
    const fresh = (type: string) => drawing.freshId(type);
    const steps = o.found
      ? cureSteps(drawing.scene, o.found, fresh)
      : o.detail
        ? [{ op: 'put' as const, record: { ...o.detail, id: fresh('view:detail') } }]
        : [];
    if (!steps.length) return;
    drawing.edit(`Show ${item?.values.description.text ?? 'an item'}: ${o.name}`.slice(0, 120), steps);
    notify('good', `Added: ${o.name}.`);
    this.close();
  }
}

/** All of an outline counts as much as twenty times its size: a large view of a corner of it is no help. */
const worth = (o: Offer): number => o.share + Math.min(1, Math.log10(1 + o.visibleMm2) / 3);
