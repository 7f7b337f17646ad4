import type { Assembly } from '$core/assembly/assembly';
import { componentsOf } from '$core/assembly/components';
import { sheetsOf, viewsOn, type DrawingDocument, type ViewRecord } from '$core/document/records';
import type { Step } from '$core/document/steps';
import type { Item } from '$core/ledger/items';
import { chosenKs, flatKey } from '$core/flat/k-factor';
import type { SlotReport } from '$core/recipe/sheet-maker';
import { composeSheet } from '$elements/compose';
import { isElement } from '$elements/kinds';
import { Scene } from '$elements/scene';
import type { ViewResult } from '$core/views/compute-view';
import { unpack } from '$core/base/pack';
import { unpackFeatures, type PartFeatures } from '$core/features/part-features';
import { unpackResult } from '$core/views/result-codec';
import { specified } from '$core/views/view-spec';
import { SvelteMap } from 'svelte/reactivity';
import { call } from './api';
import { Proof } from '$lib/proof/proof.svelte';
import { notify } from './notices.svelte';
import { Outbox, type ChangeLine, type OutboxState, type Outcome } from './outbox';
import { selectionOf, selectionOn, type Selection } from './selection';

export type { Selection } from './selection';

export interface DrawingData {
  readonly id: string;
  readonly title: string;
  readonly assembly: Assembly;
  readonly document: DrawingDocument;
  readonly version: number;
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  /** `drafting`: more of the first drawing is on its way. */
  readonly state?: string;
}

/** The making of an issue. */
export interface Issuing {
  readonly state: 'queued' | 'working' | 'done' | 'failed' | 'stopped';
  readonly revision: string;
  readonly kind: 'issued' | 'review';
  readonly progress: number;
  readonly errorText: string | null;
}

/** Is it being made? */
export const isMade = (i: Issuing | undefined): boolean => i?.state === 'queued' || i?.state === 'working';

/** What else of the first drawing is being made, and how far it is. */
export interface Drafting {
  readonly stage: string;
  readonly share: number;
}

/** How often it is looked whether views are there, and how many times: three minutes. */
const LOOK_MS = 120;
const MOST_LOOKS = 1500;

/** What is not under the pointer follows a change this much later. */
const CALM_MS = 150;

/** The open drawing: document, computed views, selection, and the queue of changes on their way to the server. */
export class Drawing {
  readonly id: string;
  readonly assembly: Assembly;
  readonly components;
  document = $state.raw<DrawingDocument>({});
  version = $state(0);
  canUndo = $state(false);
  canRedo = $state(false);
  private wanted = $state.raw<Selection>({ kind: 'none' });
  private openSheet = $state('');
  /** Changes not yet confirmed by the server. */
  waiting = $state(0);
  /** Grows when something happens to a newer model of the job. */
  modelNews = $state(0);
  lost = $state(false);
  /** Sheets that are still being drawn, for a drawing that was opened before. */
  drafting = $state.raw<Drafting | undefined>(undefined);
  /** The issue that is being made, or how the last one ended. */
  issuing = $state.raw<Issuing | undefined>(undefined);
  results = new SvelteMap<string, ViewResult>();
  /** What views show of each component, for the ledger: it knows of all sheets before they are fetched. */
  seen = $state.raw<ReadonlyMap<string, Float32Array>>(new Map());
  seenThere = $state(false);
  /** What is measured on parts, by geometry key: fetched beside the views of the open sheet. */
  features = $state.raw<ReadonlyMap<string, PartFeatures> | undefined>(undefined);
  /** How far the views on their way are, 0…1, and those that cannot be drawn with the reason. */
  progress = new SvelteMap<string, number>();
  broken = new SvelteMap<string, string>();
  /** Views on their way, by id. */
  computing = new SvelteMap<string, string>();
  /** Id of the model that is shown; empty: the one the drawing was first made from. */
  readonly model: string;
  private calmSoon: ReturnType<typeof setTimeout> | undefined;
  private drawsViews = true;
  private opened = false;
  private opening = false;
  private specs = new Map<string, string>();
  /** Ks that the features at hand go by. */
  private knownKs = '[]';
  private readonly outbox: Outbox;
  private events: EventSource | undefined;

  /** The drawing, indexed. What is read of a view's result is read when it is drawn: each picture waits for its own only. */
  readonly scene = $derived.by(
    () =>
      new Scene({
        document: this.document,
        assembly: this.assembly,
        results: this.results,
        seen: this.seen,
        ...(this.features ? { features: this.features } : {}),
      }),
  );
  /** The scene a moment after the last change: for what may lag behind the pointer. */
  calm = $state.raw<Scene>(undefined!);
  readonly items = $derived(this.scene.items);
  readonly sheets = $derived(this.scene.sheets);
  /** The format whose canvas is open instead of a sheet. */
  readonly openFormat = $derived.by(() => this.scene.formats.find((f) => f.id === this.sheetId));
  /** The picture of the open sheet; others are drawn where they are shown. */
  readonly picture = $derived.by(() => (this.scene.one('sheet', this.sheetId) ? composeSheet(this.scene, this.sheetId) : undefined));
  /** What a checker would mark, worked out beside the page. */
  readonly proof = new Proof();
  readonly kept = $derived(this.waiting === 0 && !this.lost);

  constructor(data: DrawingData) {
    this.id = data.id;
    this.model = modelOf(data.document);
    this.assembly = data.assembly;
    this.components = componentsOf(data.assembly);
    this.document = data.document;
    this.version = data.version;
    this.canUndo = data.canUndo;
    this.canRedo = data.canRedo;
    this.knownKs = JSON.stringify([...chosenKs(data.assembly, data.document)]);
    this.openSheet = sheetsOf(data.document)[0]?.id ?? '';
    if (data.state === 'drafting') this.drafting = { stage: 'drawing', share: 0 };
    // A reload comes back to the sheet that was open.
    const last = typeof sessionStorage === 'undefined' ? null : sessionStorage.getItem(`sheet:${data.id}`);
    if (last && data.document[last]?.type === 'sheet') this.openSheet = last;
    this.calm = this.scene;
    this.outbox = new Outbox(
      data,
      lineOf(data.id),
      (state) => this.take(state),
      (sentence) => notify('trouble', sentence),
    );
  }

  /** Begins to listen and fetches the views, if they are wanted. Browser only. @returns how to stop */
  open(views = true): () => void {
    this.drawsViews = views;
    this.events = new EventSource(`/api/jobs/${this.id}/events`);
    // What happened before the line was open, or while it was down, is fetched.
    this.events.onopen = () => {
      this.outbox.refresh();
      void this.lookAfterDraft();
      void this.lookAfterIssue();
    };
    this.events.onmessage = (m) => {
      const e = JSON.parse(m.data as string) as { type: string; version?: number; view?: string; share?: number; text?: string };
      if (e.type === 'document') this.outbox.refresh(e.version);
      if (e.type === 'model') this.modelNews++;
      if (e.type === 'job') void this.lookAfterDraft();
      if (e.type === 'issuing') void this.lookAfterIssue();
      if (e.type === 'progress' && e.view && this.computing.has(e.view)) this.progress.set(e.view, e.share ?? 0);
      if (e.type === 'trouble' && e.view && this.computing.has(e.view)) {
        this.computing.delete(e.view);
        this.broken.set(e.view, e.text ?? '');
      }
      if (e.type === 'view' && e.view && this.computing.has(e.view)) void this.fetchView(e.view);
      else if (e.type === 'view') this.fetchSeenSoon();
    };
    this.opened = true;
    // No change is on its way yet: views are asked for before anything else is done.
    this.opening = true;
    this.refreshViews();
    this.opening = false;
    if (views) {
      void this.fetchFeatures();
      void this.fetchSeenAfterSheet();
    }
    return () => this.events?.close();
  }

  /** How far the rest of the first drawing is. */
  private async lookAfterDraft(): Promise<void> {
    if (!this.drafting) return;
    try {
      const { state, stage, progress, errorText, slots } = await call<{
        state: string;
        stage: string;
        progress: number;
        errorText: string | null;
        slots: readonly SlotReport[] | null;
      }>(`/api/jobs/${this.id}`);
      this.drafting = state === 'drafting' ? { stage, share: progress } : undefined;
      if (!this.drafting && errorText) notify('trouble', `The first drawing could not be drawn to its end. ${errorText}`);
      if (!this.drafting) this.sayLeftOut(slots ?? []);
      if (!this.drafting) this.fetchSeenSoon();
    } catch {
      // The line tells when there is more to know.
    }
  }

  /** How far the issue is; how it ended is said wherever one is. */
  private async lookAfterIssue(): Promise<void> {
    try {
      const now = (await call<Issuing | null>(`/api/jobs/${this.id}/issuing`)) ?? undefined;
      const went = isMade(this.issuing);
      this.issuing = now;
      if (!went || !now) return;
      if (now.state === 'done')
        notify('good', now.kind === 'issued' ? `Revision ${now.revision} is issued and frozen.` : `Revision ${now.revision} is out for review.`);
      if (now.state === 'stopped') notify('good', `Revision ${now.revision} was not issued: its making was stopped, and nothing of it is kept.`);
      if (now.state === 'failed') notify('trouble', now.errorText ?? 'The issue could not be made.');
    } catch {
      // The line tells when there is more to know.
    }
  }

  /** Queues an issue. @throws ApiFailure */
  async issue(request: object): Promise<void> {
    this.issuing = await call<Issuing>(`/api/jobs/${this.id}/issuing`, { method: 'POST', body: request });
  }

  /** Stops the making of the issue. */
  async stopIssuing(): Promise<void> {
    try {
      await call(`/api/jobs/${this.id}/issuing`, { method: 'DELETE' });
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }

  /** Slots of a recipe that this model had nothing for. */
  private sayLeftOut(slots: readonly SlotReport[]): void {
    const left = slots.filter((s) => !s.filled);
    if (left.length)
      notify(
        'good',
        `All sheets stand. Left out: ${left
          .slice(0, 3)
          .map((s) => `${s.name} (${s.why.replace(/\.$/, '')})`)
          .join('; ')}${left.length > 3 ? `; ${left.length - 3} more` : ''}.`,
      );
  }

  /** Leaves it at the sheets that stand. */
  async stopDrafting(): Promise<void> {
    try {
      await call(`/api/jobs/${this.id}/cancel`, { method: 'POST' });
    } catch (e) {
      notify('trouble', (e as Error).message);
    }
  }

  get sheetId(): string {
    return this.openSheet;
  }

  /** Opens a sheet: its views are fetched if they are not here. */
  set sheetId(id: string) {
    this.openSheet = id;
    this.wanted = selectionOn(this.wanted, id, this.scene);
    this.fetchSheet(id);
  }

  /** What is selected of the sheet that is shown. */
  get selection(): Selection {
    return this.wanted;
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

  /** Ids of the elements that are selected. */
  get chosen(): readonly string[] {
    const s = this.selection;
    return s.kind === 'records' ? s.ids : s.kind === 'record' ? [s.id] : [];
  }

  /** Selects elements: none, one or several. */
  choose(ids: readonly string[]): void {
    this.select(selectionOf(ids));
  }

  itemOfPath(path: string): Item | undefined {
    return this.scene.itemAt(path);
  }

  /** An id that no record has, had or will have: what was once removed may come back. */
  freshId(base: string): string {
    return `${base}~${crypto.randomUUID().slice(0, 8)}`;
  }

  /** Selects something of the sheet that is shown; an element of another sheet opens that one. */
  select(s: Selection): void {
    const record = s.kind === 'record' ? this.document[s.id] : undefined;
    const sheet = record && isElement(record) ? this.scene.sheetOf(record) : undefined;
    if (sheet && sheet.id !== this.openSheet) this.sheetId = sheet.id;
    this.wanted = selectionOn(s, this.openSheet, this.scene);
  }

  /** Applies an edit here at once and sends it; a refused edit is taken back with a word why. */
  edit(label: string, steps: readonly Step[]): void {
    if (steps.length) this.outbox.put({ kind: 'edit', label, steps });
  }

  undo(): void {
    if (this.canUndo) this.outbox.put({ kind: 'undo' });
  }

  redo(): void {
    if (this.canRedo) this.outbox.put({ kind: 'redo' });
  }

  private take(state: OutboxState): void {
    this.version = state.version;
    this.canUndo = state.canUndo;
    this.canRedo = state.canRedo;
    this.waiting = state.waiting;
    this.lost = state.lost;
    // Another model: everything that was read of the old one is read anew, once the change is kept.
    if (modelOf(state.document) !== this.model && state.waiting === 0) {
      location.reload();
      return;
    }
    // Flat patterns by another K are measured on the server, once it has the change.
    const ks = JSON.stringify([...chosenKs(this.assembly, state.document)]);
    if (state.waiting === 0 && ks !== this.knownKs) {
      this.knownKs = ks;
      if (this.opened && this.drawsViews) void this.fetchFeatures();
    }
    if (state.document === this.document) return;
    this.document = state.document;
    this.calmSoon ??= setTimeout(() => {
      this.calmSoon = undefined;
      this.calm = this.scene;
    }, CALM_MS);
    if (!this.document[this.sheetId]) this.sheetId = this.sheets[0]?.id ?? '';
    this.wanted = selectionOn(this.wanted, this.openSheet, this.scene);
    this.refreshViews();
  }

  /** Views of the open sheet are all here: those of others may follow. */
  readonly openReady = $derived.by(() => this.scene.viewsOn(this.sheetId).every((v) => !this.computing.has(v.id)));

  /** Fetches the views of a sheet that are not here, if any are wanted. */
  fetchSheet(id: string): void {
    if (this.opened && this.drawsViews) for (const v of this.scene.viewsOn(id)) this.want(v);
  }

  /** Fetches what changed of the views that are here, and what the open sheet shows. */
  private refreshViews(): void {
    if (!this.drawsViews) return;
    this.fetchSheet(this.sheetId);
    for (const id of this.specs.keys()) {
      const view = this.document[id];
      if (view?.type === 'view') this.want(view);
    }
  }

  private async fetchFeatures(tries = 0): Promise<void> {
    try {
      const response = await fetch(`/api/jobs/${this.id}/features`);
      if (!response.ok) throw new Error(`status ${response.status}`);
      const packed = unpack<Record<string, Uint8Array>>('NQfs', 1, new Uint8Array(await response.arrayBuffer())) ?? {};
      this.features = new Map(
        Object.entries(packed).flatMap(([key, bytes]) => {
          const features = unpackFeatures(bytes);
          return features ? [[key, features] as const] : [];
        }),
      );
      this.calm = this.scene;
      // The server may not have had the last K yet.
      const behind = [...chosenKs(this.assembly, this.document)].some(([key, k]) => this.features?.get(key)?.laid && !this.features.has(flatKey(key, k)));
      if (behind && tries < 20) setTimeout(() => void this.fetchFeatures(tries + 1), 300);
    } catch {
      if (tries < 20) setTimeout(() => void this.fetchFeatures(tries + 1), 3000);
    }
  }

  private async fetchSeenAfterSheet(): Promise<void> {
    for (let n = 0; n < MOST_LOOKS && !this.openReady; n++) await new Promise((done) => setTimeout(done, LOOK_MS));
    await new Promise((done) => setTimeout(done, CALM_MS));
    await this.fetchSeen();
  }

  private seenSoon: ReturnType<typeof setTimeout> | undefined;

  /** Views that are not open were drawn anew: several mostly. */
  private fetchSeenSoon(): void {
    clearTimeout(this.seenSoon);
    this.seenSoon = setTimeout(() => void this.fetchSeen(), 1500);
  }

  /** What all views show of each component, once the open sheet is there; again when views were drawn anew. */
  private async fetchSeen(): Promise<void> {
    try {
      const response = await fetch(`/api/jobs/${this.id}/seen`);
      if (!response.ok) throw new Error(`status ${response.status}`);
      const areas = unpack<Record<string, Uint8Array>>('NQsn', 1, new Uint8Array(await response.arrayBuffer())) ?? {};
      this.seen = new Map(Object.entries(areas).map(([view, bytes]) => [view, new Float32Array(bytes.slice().buffer)]));
      this.calm = this.scene;
      this.seenThere = true;
    } catch {
      setTimeout(() => void this.fetchSeen(), 3000);
    }
  }

  /** Fetches a view unless it is here, or on its way, as it is wanted now. */
  private want(r: ViewRecord): void {
    const { text } = specified(r, this.document, this.assembly);
    if (this.specs.get(r.id) === text) return;
    this.specs.set(r.id, text);
    // Details and copies show what another view shows: it is here, or on its way.
    const same = [...this.specs].find(([id, of]) => of === text && id !== r.id && this.results.has(id) && !this.computing.has(id));
    if (same) {
      this.results.set(r.id, this.results.get(same[0])!);
      this.computing.delete(r.id);
      this.broken.delete(r.id);
      return;
    }
    this.computing.set(r.id, text);
    this.progress.delete(r.id);
    this.broken.delete(r.id);
    void this.fetchView(r.id);
  }

  /** Waits for the views of a sheet, on a page that does not fetch them by itself too. @returns whether all could be drawn */
  async viewsThere(sheet: string): Promise<boolean> {
    const views = viewsOn(this.document, sheet);
    for (const v of views) this.want(v);
    for (let n = 0; n < MOST_LOOKS && views.some((v) => this.computing.has(v.id)); n++) await new Promise((done) => setTimeout(done, LOOK_MS));
    return views.every((v) => this.results.has(v.id) && !this.broken.has(v.id) && !this.computing.has(v.id));
  }

  private async fetchView(id: string, tries = 0): Promise<void> {
    const wanted = this.specs.get(id);
    // The change that asks for it is sent right after this: the server learns of it first.
    if (!this.opening) {
      await Promise.resolve();
      await this.outbox.settled();
    }
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

const modelOf = (doc: DrawingDocument) => (doc['model']?.type === 'model' ? doc['model'].model : '');

function lineOf(id: string): ChangeLine {
  return {
    send: (change, version, token) =>
      change.kind === 'edit'
        ? call<Outcome>(`/api/jobs/${id}/edits`, { method: 'POST', body: { version, token, label: change.label, steps: change.steps } })
        : call<Outcome>(`/api/jobs/${id}/${change.kind}`, { method: 'POST', body: { version, token } }),
    since: (version) => call(`/api/jobs/${id}/edits?since=${version}`),
  };
}
