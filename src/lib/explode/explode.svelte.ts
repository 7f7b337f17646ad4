import { evaluateLength } from '$core/base/expression';
import { applyToPoint, combine } from '$core/base/placement';
import { dot, normalize, type Vec3 } from '$core/base/vector';
import { without } from '$core/base/without';
import { drawingOf, recordsOf, type PullRecord, type SpreadRecord, type ViewRecord } from '$core/document/records';
import { blocksOn, EXPLODED_MARGIN, roomBeside } from '$core/draft/room';
import { fastenedTo, ofSameItems, oneLevelUp, withoutOwnPull } from '$core/explode/choose';
import { changeSpread, fitView, insertPlanned, mergePulls, mirroredPull, showSpread, splitPull, viewsShowing } from '$core/explode/edits';
import { plainPull, pullRecord, pullsOf } from '$core/explode/records';
import { motionsOf, shareOf } from '$core/explode/spread';
import { frameFrom, namedFrame, type ViewFrame } from '$core/outline/directions';
import { formatByName, scaleText, sheetGeometry, standardScales } from '$core/sheet/formats';
import { titleBlockRect } from '$core/sheet/title-block';
import type { CheckAnswer, FitAnswer, PlanAnswer } from '$core/explode/requests';
import type { DirectionProposal } from '$core/explode/directions';
import type { ApiFailure } from '../shared/api';
import type { Drawing } from '../shared/drawing.svelte';
import { arrangeAnew } from '../shared/balloons';
import { notify } from '../shared/notices.svelte';
import { compute } from './compute';

/** Least distance between parts on paper that is no finding, mm. */
const GAP = 1;
const CHECK_AFTER_MS = 120;

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
  /** The face, hole or shaft that was picked last gives a direction. */
  picked = $state.raw<{ readonly direction: Vec3; readonly what: string; readonly at: Vec3 } | undefined>(undefined);
  check = $state.raw<CheckAnswer | undefined>(undefined);
  checking = $state(false);
  /** Long work under way. */
  work = $state.raw<{ readonly what: string; readonly share: number; readonly stop: () => void } | undefined>(undefined);
  proposals = $state.raw<readonly DirectionProposal[]>([]);
  /** A distance while its handle is dragged, mm. */
  drag = $state<number | undefined>(undefined);
  quickBar = $state(false);
  /** Components that the last plan could not free. */
  stuck = $state.raw<PlanAnswer['stuck']>([]);

  readonly spreads = $derived.by(() => recordsOf(this.drawing.document, 'spread'));
  readonly spread = $derived.by((): SpreadRecord | undefined => this.spreads.find((s) => s.id === this.spreadId) ?? this.spreads[0]);
  readonly made = $derived.by(() => {
    if (!this.spread) return [];
    const pulls = pullsOf(this.spread, this.drawing.components);
    return this.drag === undefined ? pulls : pulls.map((p) => (p.record === this.active ? { ...p, distanceMm: this.drag! } : p));
  });
  readonly motions = $derived.by(() => motionsOf(this.made, this.drawing.components.length, this.time));
  readonly pull = $derived.by((): PullRecord | undefined => (this.active === undefined ? undefined : this.spread?.pulls[this.active]));
  /** The view of a sheet that shows this spread, if any. */
  readonly view = $derived.by((): ViewRecord | undefined => (this.spread ? viewsShowing(this.drawing.document, this.spread.id)[0] : undefined));
  readonly frame = $derived.by((): ViewFrame => this.view ?? namedFrame('isometric'));
  /** Sheet, scale and room on paper. */
  readonly place = $derived.by(() => {
    const doc = this.drawing.document;
    const sheet = this.view ? doc[this.view.sheet] : this.drawing.sheets[0];
    const format = formatByName(sheet?.type === 'sheet' ? sheet.size : 'A3')!;
    const geometry = sheetGeometry(format, sheet?.type === 'sheet' ? sheet.landscape : true);
    const { frame } = geometry;
    return {
      sheet: sheet?.type === 'sheet' ? sheet : undefined,
      size: format.name,
      geometry,
      scale: this.view?.scale ?? 0.1,
      room: roomBeside(
        frame,
        sheet?.type === 'sheet' ? blocksOn(doc, sheet.id, format, sheet.landscape, this.drawing.items.length) : [titleBlockRect(geometry)],
      ),
    };
  });
  readonly itemOf = (c: number) => this.drawing.itemOfComponent.get(c);

  private timer: ReturnType<typeof setTimeout> | undefined;
  private running: AbortController | undefined;

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

  changePull(i: number, label: string, change: Partial<PullRecord>, drop: readonly (keyof PullRecord)[] = []): void {
    const pulls = this.spread!.pulls.map((p, k) => (k === i ? drop.reduce((r, key) => without(r, key) as PullRecord, { ...p, ...change }) : p));
    this.put(label, { pulls });
  }

  /** The record index of a made pull, and back. */
  timeOf(record: number): number {
    const i = this.made.findIndex((p) => p.record === record);
    return i < 0 ? this.made.length : i + 1;
  }

  nameOf(p: PullRecord): string {
    if (p.name) return p.name;
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

  /** Sets that hold together, as indices. */
  together(): number[][] {
    const index = new Map(this.drawing.components.map((c) => [c.path, c.index]));
    return (this.spread?.together ?? []).map((set) => set.flatMap((p) => index.get(p) ?? []));
  }

  private paths(set: Iterable<number>): string[] {
    return [...set].map((c) => this.drawing.components[c]!.path);
  }

  /** Pulls what is chosen: a new pull after the one at hand. */
  addPull(direction: Vec3 = this.direction, distanceMm = this.roundDistance()): void {
    if (!this.spread || this.chosen.size === 0) {
      notify('trouble', 'Pick the parts to be pulled first: press on them, or draw a box around them with Shift held.');
      return;
    }
    const at = this.active === undefined ? this.spread.pulls.length : this.active + 1;
    const pull: PullRecord = { components: this.paths(this.chosen), direction: normalize(direction), distanceMm, typed: true };
    this.put('Pull', { pulls: [...this.spread.pulls.slice(0, at), pull, ...this.spread.pulls.slice(at)] });
    this.active = at;
    this.time = this.timeOf(at);
  }

  /** A turn of what is chosen by a right angle about what was picked. */
  addTurn(): void {
    if (!this.spread || this.chosen.size === 0 || !this.picked) {
      notify('trouble', 'Pick a hole, a shaft or a face of the part to be turned: that gives the axis.');
      return;
    }
    const at = this.active === undefined ? this.spread.pulls.length : this.active + 1;
    const turn = { axis: this.picked.direction, through: this.picked.at, angle: Math.PI / 2 };
    const pull: PullRecord = { components: this.paths(this.chosen), direction: this.picked.direction, distanceMm: 0, turn, typed: true };
    this.put('Turn', { pulls: [...this.spread.pulls.slice(0, at), pull, ...this.spread.pulls.slice(at)] });
    this.active = at;
    this.time = this.timeOf(at);
  }

  private roundDistance(): number {
    const box = this.drawing.assembly.parts.map((p) => p.box);
    const size = Math.max(...box.map((b) => Math.hypot(b[3]! - b[0]!, b[4]! - b[1]!, b[5]! - b[2]!)), 1) / 5;
    const step = 10 ** Math.floor(Math.log10(size));
    return Math.max(step, Math.round(size / step) * step);
  }

  /** Takes what was typed as a distance, or as an angle in degrees. @returns whether it is one */
  typePull(i: number, text: string): boolean {
    const p = this.spread!.pulls[i]!;
    const v = evaluateLength(text);
    if (v === undefined) notify('trouble', `“${text}” is no length. Type a number such as 45 or 2*12.5.`);
    else if (p.turn) this.changePull(i, `Turn ${v}°`, { turn: { ...p.turn, angle: (v * Math.PI) / 180 }, typed: true });
    else this.changePull(i, `Distance ${v} mm`, { distanceMm: v, typed: true });
    return v !== undefined;
  }

  removePull(i: number): void {
    this.put('Remove pull', { pulls: this.spread!.pulls.filter((_, k) => k !== i) });
    this.active = undefined;
  }

  movePull(from: number, to: number): void {
    const pulls = [...this.spread!.pulls];
    const [p] = pulls.splice(from, 1);
    if (!p) return;
    pulls.splice(Math.max(0, Math.min(pulls.length, to)), 0, p);
    this.put('Reorder pulls', { pulls });
    this.active = Math.max(0, Math.min(pulls.length - 1, to));
  }

  mergeNext(i: number): void {
    const { pulls } = this.spread!;
    const [a, b] = [pulls[i], pulls[i + 1]];
    if (a && b) this.put('Merge pulls', { pulls: [...pulls.slice(0, i), mergePulls(a, b), ...pulls.slice(i + 2)] });
  }

  split(i: number): void {
    const { pulls } = this.spread!;
    const parts = splitPull(pulls[i]!, (path) => this.drawing.itemOfPath(path)?.part ?? path);
    if (parts.length < 2) notify('trouble', 'All its parts are the same item: there is nothing to split.');
    else this.put('Split pull', { pulls: [...pulls.slice(0, i), ...parts, ...pulls.slice(i + 1)] });
  }

  /** Evenly spaced along the direction, in the order in which the parts stand there; or all the same way again. */
  spaceEvenly(i: number): void {
    const p = this.spread!.pulls[i]!;
    if (p.ranks) {
      this.changePull(i, 'All the same distance', {}, ['ranks']);
      return;
    }
    const { components, assembly } = this.drawing;
    const along = (path: string) => {
      const c = components.find((x) => x.path === path);
      return c ? dot(applyToPoint(c.placement, assembly.parts[c.part]!.centroid), p.direction) : 0;
    };
    const order = [...p.components].sort((a, b) => along(a) - along(b));
    // What stands side by side goes equally far.
    const ranks = new Map<string, number>();
    let [rank, last] = [0, -Infinity];
    for (const path of order) {
      if (along(path) > last + 0.01) rank++;
      last = along(path);
      ranks.set(path, rank);
    }
    this.changePull(i, 'Space evenly', { ranks: p.components.map((c) => ranks.get(c)!) });
  }

  mirror(i: number): void {
    const { assembly, components } = this.drawing;
    const p = this.spread!.pulls[i]!;
    const middles = components.map((c) => applyToPoint(c.placement, assembly.parts[c.part]!.centroid));
    const through = [0, 1, 2].map((k) => (Math.min(...middles.map((m) => m[k]!)) + Math.max(...middles.map((m) => m[k]!))) / 2) as unknown as Vec3;
    const axes: Vec3[] = [p.direction, [1, 0, 0], [0, 1, 0], [0, 0, 1]];
    const copy = axes.map((n) => mirroredPull(p, assembly, components, n, through)).find((c) => c && c.components.some((x) => !p.components.includes(x)));
    if (!copy) notify('trouble', 'No equal parts stand on the other side.');
    else this.put('Copy to the other side', { pulls: [...this.spread!.pulls.slice(0, i + 1), copy, ...this.spread!.pulls.slice(i + 1)] });
  }

  holdTogether(): void {
    if (!this.spread) return;
    const own = new Set(this.paths(this.chosen));
    const rest = (this.spread.together ?? []).filter((set) => !set.some((p) => own.has(p)));
    const held = (this.spread.together ?? []).some((set) => set.length === own.size && set.every((p) => own.has(p)));
    if (held) this.put('Let go', { together: rest });
    else if (own.size > 1) this.put('Hold together', { together: [...rest, [...own]] });
    else notify('trouble', 'Pick the parts that shall move as one first.');
  }

  newSpread(): void {
    const id = this.drawing.freshId(`spread:${this.spreads.length + 1}`);
    this.drawing.edit('New spread', [{ op: 'put', record: { type: 'spread', id, name: `Spread ${this.spreads.length + 1}`, pulls: [] } }]);
    this.open(id);
  }

  duplicate(): void {
    if (!this.spread) return;
    const id = this.drawing.freshId(`spread:${this.spreads.length + 1}`);
    this.drawing.edit('Duplicate spread', [{ op: 'put', record: { ...this.spread, id, name: `${this.spread.name} copy` } }]);
    this.open(id);
  }

  removeSpread(): void {
    const { drawing, spread } = this;
    if (!spread) return;
    const users = viewsShowing(drawing.document, spread.id);
    const steps = users.flatMap((v) => showSpread(drawing.document, drawing.assembly, drawing.components, v, null));
    drawing.edit('Remove spread', [...steps, { op: 'drop', id: spread.id }]);
    if (users.length)
      notify('good', `${users.map((v) => v.name).join(', ')} ${users.length > 1 ? 'show' : 'shows'} the parts together now. Undo brings the spread back.`);
    this.open(this.spreads[0]?.id ?? '');
  }

  open(id: string): void {
    this.spreadId = id;
    this.active = undefined;
    this.time = this.made.length;
    this.stuck = [];
  }

  /** Starts long work; what was under way is stopped. */
  private async long<T>(what: string, run: (signal: AbortSignal, told: (share: number) => void) => Promise<T>): Promise<T | undefined> {
    this.running?.abort();
    const stop = (this.running = new AbortController());
    const show = (share: number) => (this.work = { what, share, stop: () => stop.abort() });
    show(0);
    try {
      return await run(stop.signal, show);
    } catch (e) {
      if (!stop.signal.aborted) notify('trouble', (e as ApiFailure).message);
      return undefined;
    } finally {
      if (this.running === stop) this.work = undefined;
    }
  }

  /** Plans everything anew, or adds a plan for what is chosen or for what has no pull yet. */
  async plan(which: 'all' | 'chosen' | 'rest'): Promise<void> {
    const { drawing } = this;
    if (!this.spread) this.newSpread();
    const rest = withoutOwnPull(drawing.assembly, drawing.components, this.made);
    if (which === 'chosen' && this.chosen.size === 0) {
      notify('trouble', 'Pick the parts to be planned first.');
      return;
    }
    const only = which === 'chosen' ? [...this.chosen] : undefined;
    const answer = await this.long('Planning', (signal, told) =>
      compute<PlanAnswer>(drawing.id, { kind: 'plan', frame: this.frame, together: this.together(), only }, signal, told),
    );
    if (!answer) return;
    const records = answer.pulls.map((p) => pullRecord(p, drawing.components));
    // What was planned before for picked parts gives way; pulls of others stay.
    const own = new Set(only);
    const index = new Map(drawing.components.map((c) => [c.path, c.index]));
    const others = this.spread!.pulls.filter((p) => !p.components.every((path) => own.has(index.get(path) ?? -1)));
    const pulls =
      which === 'all'
        ? records
        : which === 'chosen'
          ? [...records, ...others]
          : insertPlanned(this.spread!.pulls, answer.pulls, answer.order, rest, drawing.components);
    this.put(which === 'all' ? 'Plan' : which === 'chosen' ? 'Plan what is picked' : 'Plan the rest', { pulls });
    this.active = undefined;
    this.time = this.made.length;
    this.stuck = answer.stuck;
    if (answer.stuck.length) notify('trouble', this.stuckText(answer.stuck[0]!) + (answer.stuck.length > 1 ? ` And ${answer.stuck.length - 1} more.` : ''));
  }

  stuckText(s: PlanAnswer['stuck'][number]): string {
    const name = (c: number) => this.drawing.components[c]!.name;
    return `${name(s.components[0]!)} comes off in no direction that was tried: even ${axisText(s.direction)} ${s.by.slice(0, 2).map(name).join(' and ') || 'something'} holds it.`;
  }

  /** Shortens the pulls until the view fits its room at the largest standard scale. */
  async tighten(scales?: readonly number[]): Promise<void> {
    const { drawing, spread, view, place } = this;
    if (!spread || this.made.length === 0) {
      notify('trouble', 'There are no pulls to be tightened. Plan first.');
      return;
    }
    const pulls = this.made.map(plainPull);
    const kept = this.made.flatMap((p, i) => (spread.pulls[p.record]!.typed ? [i] : []));
    const wanted = scales ?? standardScales(drawingOf(drawing.document).standard);
    const answer = await this.long('Tightening', (signal, told) =>
      compute<FitAnswer>(drawing.id, { kind: 'fit', pulls, kept, frame: this.frame, room: place.room, scales: wanted }, signal, told),
    );
    if (!answer || this.spread !== spread) return;
    const records = spread.pulls.map((p, i) => {
      const k = this.made.findIndex((m) => m.record === i);
      const tight = answer.pulls[k];
      return tight ? { ...p, direction: tight.direction, distanceMm: tight.distanceMm } : p;
    });
    const after: SpreadRecord = { ...spread, pulls: records };
    const { document, assembly, components } = drawing;
    const { frame } = place.geometry;
    // Into the middle of its room.
    const at = [frame.x + EXPLODED_MARGIN + place.room[0] / 2, frame.y + EXPLODED_MARGIN + place.room[1] / 2] as const;
    const steps =
      view && answer.fits
        ? fitView(document, assembly, components, after, view, { scale: answer.scale, pivot: answer.middle, at })
        : changeSpread(document, assembly, components, after);
    drawing.edit('Tighten', steps);
    this.time = this.made.length;
    if (view) void arrangeAnew(drawing, view.id);
    notify(
      answer.fits ? 'good' : 'trouble',
      answer.fits
        ? `Fits ${Math.round(answer.size[0])} × ${Math.round(answer.size[1])} mm at ${scaleText(answer.scale)}, parts ${answer.gapMm} mm apart on paper.`
        : `It does not fit the sheet even at ${scaleText(answer.scale)}. Take a larger sheet, or free typed distances.`,
    );
  }

  /** How far the pull at hand has to go until it is clear, plus a gap. */
  async untilClear(i: number): Promise<void> {
    const record = this.spread!.pulls[i]!;
    const before = this.made.filter((p) => p.record < i).map(plainPull);
    const own = this.made.find((p) => p.record === i);
    if (!own) return;
    const gapMm = 4 / this.place.scale / 2;
    try {
      const { distanceMm } = await compute<{ distanceMm: number }>(this.drawing.id, {
        kind: 'clear',
        pulls: before,
        components: own.components,
        direction: record.direction,
        gapMm,
      });
      this.changePull(i, 'Until clear', { distanceMm: Math.ceil(distanceMm), typed: true });
    } catch (e) {
      notify('trouble', (e as ApiFailure).message);
    }
  }

  async proposeDirections(): Promise<void> {
    const pulls = this.made.map(plainPull);
    const answer = await this.long('Comparing directions', (signal) =>
      compute<{ proposals: readonly DirectionProposal[] }>(this.drawing.id, { kind: 'directions', pulls }, signal),
    );
    this.proposals = answer?.proposals ?? [];
  }

  /** Turns the view on the sheet. */
  lookFrom(frame: ViewFrame): void {
    const { view } = this;
    if (!view) return;
    const { right, up, toward } = frame;
    this.drawing.edit('Direction of view', [{ op: 'put', record: { ...view, right, up, toward } }]);
    this.proposals = [];
  }

  showIn(view: ViewRecord, on: boolean): void {
    const { drawing, spread } = this;
    if (!spread) return;
    drawing.edit(on ? 'Show spread' : 'Show together', showSpread(drawing.document, drawing.assembly, drawing.components, view, on ? spread.id : null));
  }

  /** Checks the ways and the paper, a moment after the last change. */
  recheck(): void {
    clearTimeout(this.timer);
    this.checking = true;
    const pulls = this.made.map(plainPull);
    const { frame, place } = this;
    this.timer = setTimeout(() => {
      compute<CheckAnswer>(this.drawing.id, { kind: 'check', pulls, paper: { frame, scale: place.scale, gapMm: GAP } })
        .then((answer) => {
          if (this.made.length === pulls.length) this.check = answer;
          this.checking = false;
        })
        .catch((e: unknown) => {
          this.checking = false;
          notify('trouble', (e as ApiFailure).message);
        });
    }, CHECK_AFTER_MS);
  }

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
    return item ? `${item.number} ${item.values.description.text}` : this.drawing.components[c]!.name;
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
