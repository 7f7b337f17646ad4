import type { Assembly } from '$core/assembly/assembly';
import { componentsOf } from '$core/assembly/components';
import { sheetsOf, type DrawingDocument } from '$core/document/records';
import { applySteps, type Step } from '$core/document/steps';
import { itemsOf, type Item } from '$core/ledger/items';
import { composeSheet } from '$core/picture/compose';
import { findingsOf } from '$core/proof/findings';
import type { ViewResult } from '$core/views/compute-view';
import { unpackResult } from '$core/views/result-codec';
import { specOf, specText } from '$core/views/view-spec';
import { SvelteMap } from 'svelte/reactivity';
import { call, type ApiFailure } from '../shared/api';
import { notify } from '../shared/notices.svelte';

export interface DrawingData {
  readonly id: string;
  readonly title: string;
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  readonly version: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

/** What is selected; a component belongs to an item, and both are shown everywhere. */
export type Selection =
  | { readonly kind: 'none' }
  | { readonly kind: 'item'; readonly part: string; readonly component?: number; readonly view?: string }
  | { readonly kind: 'record'; readonly id: string }
  | { readonly kind: 'field'; readonly field: string };

interface Outcome {
  readonly version: number;
  readonly steps: readonly Step[];
  readonly canUndo: boolean;
  readonly canRedo: boolean;
}

type Request = { readonly kind: 'edit'; readonly label: string; readonly steps: readonly Step[] } | { readonly kind: 'undo' | 'redo' };

/** The open drawing: document, computed views, selection, and the queue of changes on their way to the server. */
export class Drawing {
  readonly id: string;
  readonly assembly: Assembly;
  readonly components;
  document = $state.raw<DrawingDocument>({});
  version = $state(0);
  canUndo = $state(false);
  canRedo = $state(false);
  selection = $state.raw<Selection>({ kind: 'none' });
  sheetId = $state('');
  /** Changes not yet confirmed by the server. */
  waiting = $state(0);
  lost = $state(false);
  results = new SvelteMap<string, ViewResult>();
  /** Views on their way, by id. */
  computing = new SvelteMap<string, string>();
  private specs = new Map<string, string>();
  private queue: Promise<void> = Promise.resolve();
  private events: EventSource | undefined;

  readonly items: Item[] = $derived.by(() => itemsOf(this.assembly, this.document));
  readonly sheets = $derived(sheetsOf(this.document));
  readonly itemOfComponent = $derived(new Map(this.items.flatMap((i) => i.components.map((c) => [c, i] as const))));
  readonly composed = $derived.by(() => {
    const input = { document: this.document, assembly: this.assembly, components: this.components, results: new Map(this.results) };
    return new Map(this.sheets.map((s) => [s.id, composeSheet(input, s.id)]));
  });
  readonly findings = $derived.by(() =>
    findingsOf({ document: this.document, components: this.components, items: this.items, results: new Map(this.results), sheets: this.composed }),
  );
  readonly kept = $derived(this.waiting === 0 && !this.lost);

  constructor(data: DrawingData) {
    this.id = data.id;
    this.assembly = data.assembly;
    this.components = componentsOf(data.assembly);
    this.document = data.document;
    this.version = data.version;
    this.canUndo = data.canUndo;
    this.canRedo = data.canRedo;
    this.sheetId = sheetsOf(data.document)[0]?.id ?? '';
  }

  /** Begins to listen and fetches the views. Browser only. @returns how to stop */
  open(): () => void {
    this.events = new EventSource(`/api/jobs/${this.id}/events`);
    this.events.onmessage = (m) => {
      const e = JSON.parse(m.data as string) as { type: string; version?: number; view?: string };
      if (e.type === 'document' && (e.version ?? 0) > this.version && this.waiting === 0) void this.catchUp();
      if (e.type === 'view' && e.view && this.computing.has(e.view)) void this.fetchView(e.view);
    };
    this.refreshViews();
    return () => this.events?.close();
  }

  get selectedPart(): string | undefined {
    const s = this.selection;
    if (s.kind === 'item') return s.part;
    if (s.kind === 'record') {
      const r = this.document[s.id];
      if (r?.type === 'balloon') return this.itemOfPath(r.component)?.part;
    }
    return undefined;
  }

  itemOfPath(path: string): Item | undefined {
    const c = this.components.find((x) => x.path === path);
    return c && this.itemOfComponent.get(c.index);
  }

  select(s: Selection): void {
    this.selection = s;
  }

  /** Applies an edit here at once and sends it; a refused edit is taken back with a word why. */
  edit(label: string, steps: readonly Step[]): void {
    if (steps.length === 0) return;
    const result = applySteps(this.document, steps);
    if (!result.ok) {
      notify('trouble', `That does not fit: ${result.reason}.`);
      return;
    }
    this.document = result.document;
    this.canUndo = true;
    this.canRedo = false;
    this.refreshViews();
    this.send({ kind: 'edit', label, steps });
  }

  undo(): void {
    if (this.canUndo) this.send({ kind: 'undo' });
  }

  redo(): void {
    if (this.canRedo) this.send({ kind: 'redo' });
  }

  private send(request: Request): void {
    this.waiting++;
    this.queue = this.queue.then(async () => {
      try {
        const body = request.kind === 'edit' ? { version: this.version, label: request.label, steps: request.steps } : { version: this.version };
        const path = request.kind === 'edit' ? 'edits' : request.kind;
        const outcome = await call<Outcome>(`/api/jobs/${this.id}/${path}`, { method: 'POST', body });
        this.version = outcome.version;
        this.lost = false;
        if (request.kind !== 'edit') this.applyForeign(outcome.steps);
        // Later edits on their way already made these true.
        if (this.waiting === 1) {
          this.canUndo = outcome.canUndo;
          this.canRedo = outcome.canRedo;
        }
      } catch (e) {
        await this.refused(e as ApiFailure);
      } finally {
        this.waiting--;
      }
    });
  }

  private applyForeign(steps: readonly Step[]): void {
    const result = applySteps(this.document, steps);
    if (result.ok) this.document = result.document;
    if (!this.document[this.sheetId]) this.sheetId = this.sheets[0]?.id ?? '';
    const s = this.selection;
    if (s.kind === 'record' && !this.document[s.id]) this.selection = { kind: 'none' };
    this.refreshViews();
  }

  private async refused(e: ApiFailure): Promise<void> {
    notify('trouble', e.message);
    if (e.code === 'OFFLINE') this.lost = true;
    else await this.reload();
  }

  /** Fetches the drawing as the server has it. */
  private async reload(): Promise<void> {
    try {
      const fresh = await call<DrawingData>(`/api/jobs/${this.id}/drawing`);
      this.document = fresh.document;
      this.version = fresh.version;
      this.canUndo = fresh.canUndo;
      this.canRedo = fresh.canRedo;
      this.lost = false;
      this.refreshViews();
    } catch {
      this.lost = true;
    }
  }

  /** Someone else changed the drawing: take their steps over. */
  private async catchUp(): Promise<void> {
    const edits = await call<{ version: number; steps: readonly Step[] }[]>(`/api/jobs/${this.id}/edits?since=${this.version}`);
    for (const e of edits) {
      if (e.version !== this.version + 1) continue;
      this.applyForeign(e.steps);
      this.version = e.version;
    }
    const s = await call<DrawingData>(`/api/jobs/${this.id}/drawing`);
    this.canUndo = s.canUndo;
    this.canRedo = s.canRedo;
  }

  /** Fetches every view whose specification changed. */
  private refreshViews(): void {
    for (const r of Object.values(this.document)) {
      if (r.type !== 'view') continue;
      const text = specText(specOf(r, this.document, this.components), this.assembly, this.components);
      if (this.specs.get(r.id) === text) continue;
      this.specs.set(r.id, text);
      this.computing.set(r.id, text);
      void this.fetchView(r.id);
    }
  }

  private async fetchView(id: string, tries = 0): Promise<void> {
    const wanted = this.specs.get(id);
    // The change that asks for it is sent right after this: the server learns of it first.
    await Promise.resolve();
    await this.queue;
    try {
      const response = await fetch(`/api/jobs/${this.id}/views/${encodeURIComponent(id)}`);
      if (this.specs.get(id) !== wanted || !this.computing.has(id)) return;
      if (response.status === 202) {
        // An event tells when it is there; a slow second look in case the line was down.
        if (tries < 120) setTimeout(() => this.computing.has(id) && this.specs.get(id) === wanted && void this.fetchView(id, tries + 1), 1500);
        return;
      }
      if (!response.ok) throw new Error(`status ${response.status}`);
      const result = unpackResult(new Uint8Array(await response.arrayBuffer()));
      if (result) this.results.set(id, result);
      this.computing.delete(id);
    } catch {
      if (tries < 20) setTimeout(() => void this.fetchView(id, tries + 1), 2000);
    }
  }
}
