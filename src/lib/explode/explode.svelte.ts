import { numberText } from '$core/ledger/items';
import { applyToPoint, combine } from '$core/base/placement';
import type { Vec3 } from '$core/base/vector';
import { type HeldRecord, type PullRecord, type SpreadRecord, type ViewRecord } from '$core/document/records';
import { roomBeside } from '$core/draft/room';
import { fastenedTo, ofSameItems, onLevel, subAssemblyOf, oneLevelUp } from '$core/explode/choose';
import type { DirectionProposal } from '$core/explode/directions';
import { changeSpread, viewsShowing } from '$core/explode/edits';
import { stillHeld } from '$core/explode/held';
import { plainPull, pullsOf } from '$core/explode/records';
import type { CheckAnswer } from '$core/explode/requests';
import { motionsOf, shareOf } from '$core/explode/spread';
import type { Hit } from '$core/explode/way-out';
import { frontOf } from '$core/document/front';
import { frameFrom, sideFrame, type ViewFrame } from '$core/outline/directions';
import { paperByName, sheetGeometry } from '$core/sheet/paper';
import { blocksOn } from '$elements/list/layout';
import { titleBlockRect } from '$core/sheet/page';
import type { ApiFailure } from '../shared/api';
import type { Drawing } from '../shared/drawing.svelte';
import { notify } from '../shared/notices.svelte';
import { compute } from './compute';

/** Least distance between parts on paper that is no finding, mm. */
const GAP = 1;
const CHECK_AFTER_MS = 120;

/** A direction that something picked on the model gives. */
export interface PickedWay {
  readonly direction: Vec3;
  readonly at: Vec3;
  readonly what: string;
  readonly kind: 'face' | 'axis' | 'edge';
}

/** Long work under way. */
export interface Work {
  readonly what: string;
  readonly share: number;
  readonly stop: () => void;
  /** What is found so far can be kept: how many pulls, and how. */
  readonly found?: { readonly pulls: number; readonly keep: () => void };
}

/** The open exploded view: which spread, which pull, what is chosen, how far it is played, and what the checks say. */
export class Explode {
  readonly drawing: Drawing;
  spreadId = $state('');
  /** Index of the pull at hand in the spread's record. */
  active = $state<number | undefined>(undefined);
  chosen = $state.raw<ReadonlySet<number>>(new Set());
  /** How many pulls are made; fractions are on the way. */
  time = $state(0);
  playing = $state<-1 | 0 | 1>(0);
  /** Pulls per second. */
  speed = $state(1.5);
  /** Direction of a pull to be made. */
  direction = $state.raw<Vec3>([0, 0, 1]);
  /** Someone chose the direction for what is picked now. */
  aimed = $state(false);
  /** Directions that what was picked last gives: of its face, of its hole or shaft, of its edge. */
  picked = $state.raw<readonly PickedWay[]>([]);
  check = $state.raw<CheckAnswer | undefined>(undefined);
  checking = $state(false);
  /** Long work under way. */
  work = $state.raw<Work | undefined>(undefined);
  proposals = $state.raw<readonly DirectionProposal[]>([]);
  /** A distance while its handle is dragged, mm, and what the pull at hand passes through meanwhile. */
  drag = $state<number | undefined>(undefined);
  dragHits = $state.raw<readonly Hit[] | undefined>(undefined);
  quickBar = $state(false);

  readonly spreads = $derived.by(() => [...this.drawing.scene.all('spread')].sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })));
  readonly spread = $derived.by((): SpreadRecord | undefined => this.spreads.find((s) => s.id === this.spreadId) ?? this.spreads[0]);
  readonly made = $derived.by(() => {
    if (!this.spread) return [];
    const pulls = pullsOf(this.spread, this.drawing.components);
    return this.drag === undefined ? pulls : pulls.map((p) => (p.record === this.active ? { ...p, distanceMm: this.drag! } : p));
  });
  /** What nothing frees, as the last plan found. */
  readonly held = $derived.by((): readonly HeldRecord[] => (this.spread ? stillHeld(this.spread) : []));
  readonly motions = $derived.by(() => motionsOf(this.made, this.drawing.components.length, this.time));
  readonly pull = $derived.by((): PullRecord | undefined => (this.active === undefined ? undefined : this.spread?.pulls[this.active]));
  /** The view of a sheet that shows this spread, if any. */
  readonly view = $derived.by((): ViewRecord | undefined => (this.spread ? viewsShowing(this.drawing.document, this.spread.id)[0] : undefined));
  readonly frame = $derived.by((): ViewFrame => this.view ?? sideFrame(frontOf(this.drawing.document), 'isometric'));
  /** Sheet, scale and room on paper. */
  readonly place = $derived.by(() => {
    const doc = this.drawing.document;
    const sheet = this.view ? doc[this.view.sheet] : this.drawing.sheets[0];
    const format = paperByName(sheet?.type === 'sheet' ? sheet.size : 'A3')!;
    const geometry = sheet?.type === 'sheet' ? this.drawing.scene.page(sheet.id).geometry : sheetGeometry(format, true);
    const { frame } = geometry;
    return {
      sheet: sheet?.type === 'sheet' ? sheet : undefined,
      size: format.name,
      geometry,
      scale: this.view?.scale ?? 0.1,
      room: roomBeside(frame, sheet?.type === 'sheet' ? blocksOn(this.drawing.scene, sheet.id) : [titleBlockRect(geometry)]),
    };
  });
  readonly itemOf = (c: number) => this.drawing.scene.itemOf(c);

  private timer: ReturnType<typeof setTimeout> | undefined;
  private dragChecked: number | undefined;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
    this.spreadId = this.spreads[0]?.id ?? '';
    this.time = this.made.length;
  }

  /** A change of the spread at hand: one edit. */
  put(label: string, change: Partial<SpreadRecord>): void {
    const { drawing, spread } = this;
    if (!spread) return;
    const last = this.time >= this.made.length;
    drawing.edit(label, changeSpread(drawing.document, drawing.assembly, drawing.components, { ...spread, ...change }));
    // Whoever looks at the whole goes on doing so.
    if (last) this.time = this.made.length;
  }

  /** The record index of a made pull, and back. */
  timeOf(record: number): number {
    const i = this.made.findIndex((p) => p.record === record);
    return i < 0 ? this.made.length : i + 1;
  }

  nameOf(p: PullRecord): string {
    if (p.name) return p.name;
    const { assembly, components } = this.drawing;
    const own = new Set(p.components);
    const whole = subAssemblyOf(assembly, components, new Set(components.flatMap((c) => (own.has(c.path) ? [c.index] : []))));
    if (whole) return whole.name;
    const counts = new Map<string, number>();
    for (const path of p.components) {
      const name = this.drawing.itemOfPath(path)?.values.description.text || path.split('/').pop()!;
      counts.set(name, (counts.get(name) ?? 0) + 1);
    }
    const names = [...counts].map(([n, k]) => (k > 1 ? `${n} ×${k}` : n));
    return names.slice(0, 2).join(', ') + (names.length > 2 ? ` and ${names.length - 2} more` : '');
  }

  choosePull(i: number | undefined): void {
    this.active = i;
    this.playing = 0;
    const p = i === undefined ? undefined : this.spread?.pulls[i];
    if (!p) return;
    const index = new Map(this.drawing.components.map((c) => [c.path, c.index]));
    this.choose(new Set(p.components.flatMap((path) => index.get(path) ?? [])));
    this.direction = p.direction;
  }

  choose(set: ReadonlySet<number>): void {
    this.aimed = false;
    const grown = new Set(set);
    for (const group of this.together()) if (group.some((c) => grown.has(c))) for (const c of group) grown.add(c);
    this.chosen = grown;
    const first = [...grown][0];
    const item = first === undefined ? undefined : this.itemOf(first);
    this.drawing.select(
      item ? (grown.size === 1 ? { kind: 'item', part: item.part, component: first! } : { kind: 'item', part: item.part }) : { kind: 'none' },
    );
  }

  grow(how: 'item' | 'up' | 'fastened'): void {
    const { assembly, components } = this.drawing;
    this.choose(
      how === 'item'
        ? ofSameItems(components, this.chosen)
        : how === 'up'
          ? oneLevelUp(assembly, components, this.chosen)
          : new Set([...this.chosen, ...fastenedTo(assembly, components, this.chosen)]),
    );
  }

  /** Everything that lies on a level of the tree, 1 right under the whole. */
  chooseLevel(level: number): void {
    this.choose(onLevel(this.drawing.assembly, this.drawing.components, level));
  }

  /** Sets that hold together, as indices. */
  together(): number[][] {
    const index = new Map(this.drawing.components.map((c) => [c.path, c.index]));
    return (this.spread?.together ?? []).map((set) => set.flatMap((p) => index.get(p) ?? []));
  }

  paths(set: Iterable<number>): string[] {
    return [...set].map((c) => this.drawing.components[c]!.path);
  }

  open(id: string): void {
    this.spreadId = id;
    this.active = undefined;
    this.time = this.made.length;
  }

  /** Checks the ways and the paper, a moment after the last change. */
  recheck(): void {
    clearTimeout(this.timer);
    this.checking = true;
    const pulls = this.made.map(plainPull);
    const { frame, place } = this;
    const off = new Set(this.spread?.linesOff);
    const linesOff = this.drawing.components.filter((c) => this.spread?.noLines || off.has(c.path)).map((c) => c.index);
    this.timer = setTimeout(() => {
      compute<CheckAnswer>(this.drawing.id, { kind: 'check', pulls, paper: { frame, scale: place.scale, gapMm: GAP, linesOff } })
        .then((answer) => {
          if (this.made.length === pulls.length) this.check = answer;
          this.dragHits = undefined;
          this.checking = false;
        })
        .catch((e: unknown) => {
          this.checking = false;
          notify('trouble', (e as ApiFailure).message);
        });
    }, CHECK_AFTER_MS);
  }

  /** Checks the pull at hand while its handle is dragged: one request at a time, the latest distance next. */
  checkDrag(): void {
    const { drag, active, made } = this;
    if (drag === undefined || active === undefined || this.dragChecked !== undefined) return;
    const from = made.findIndex((p) => p.record === active);
    if (from < 0) return;
    this.dragChecked = drag;
    compute<CheckAnswer>(this.drawing.id, { kind: 'check', pulls: made.slice(0, from + 1).map(plainPull), from })
      .then((answer) => {
        if (this.drag !== undefined) this.dragHits = answer.hits;
      })
      // The check after the drag says so if the server does not answer.
      .catch(() => undefined)
      .finally(() => {
        const done = this.dragChecked;
        this.dragChecked = undefined;
        if (this.drag !== undefined && this.drag !== done) this.checkDrag();
      });
  }

  /** What the pull at hand passes through. */
  readonly hits = $derived.by((): readonly Hit[] => this.dragHits ?? this.check?.hits.filter((h) => this.made[h.pull]?.record === this.active) ?? []);

  /** What the check says of a pull, by its record. */
  wordOn(record: number): { readonly clear: boolean; readonly text: string } | undefined {
    const i = this.made.findIndex((p) => p.record === record);
    if (i < 0 || !this.check || this.check.clear.length !== this.made.length) return undefined;
    if (this.check.clear[i]) return { clear: true, text: 'clear' };
    const hit = this.check.hits.find((h) => h.pull === i)!;
    const length = this.made[i]!.turn ? `${Math.round(((hit.to - hit.from) * 180) / Math.PI)}°` : `${Number((hit.to - hit.from).toPrecision(2))} mm`;
    return { clear: false, text: `passes through ${this.label(hit.through)} for ${length}` };
  }

  /** Item number and name of a component. */
  label(c: number): string {
    const item = this.itemOf(c);
    return item ? `${numberText(item)} ${item.values.description.text}` : this.drawing.components[c]!.name;
  }

  /** Middle of the active pull's components where they are now, and where its direction points; for the handle. */
  readonly handle = $derived.by((): { at: Vec3; direction: Vec3 } | undefined => {
    const { pull, active } = this;
    if (!pull || pull.turn || active === undefined) return undefined;
    const own = this.made.find((p) => p.record === active);
    if (!own) return undefined;
    const { components, assembly } = this.drawing;
    // The one that goes the whole way carries the handle.
    const k = own.components.reduce((best, _, i) => (shareOf(own, i) > shareOf(own, best) ? i : best), 0);
    const c = components[own.components[k]!]!;
    const at = applyToPoint(combine(this.motions[c.index]!, c.placement), assembly.parts[c.part]!.centroid);
    return { at, direction: own.direction };
  });
}

/** `+X`, `−Z`, or the components of a slanted direction. */
export function axisText(v: Vec3): string {
  const k = v.findIndex((c) => Math.abs(c) > 0.9999);
  if (k >= 0) return `${v[k]! > 0 ? '+' : '−'}${'XYZ'[k]!}`;
  return `(${v.map((c) => Number(c.toFixed(2))).join(', ')})`;
}

/** The frame of the screen, as a view of the sheet would have it. */
export const screenFrame = (toward: Vec3): ViewFrame => frameFrom(toward, Math.abs(toward[2]) > 0.999 ? [0, 1, 0] : [0, 0, 1]);
