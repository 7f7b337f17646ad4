import type { Vec2 } from '$core/base/vector';
import type { CutShape } from '$core/cut/cut-shape';
import { cutFromLine, snapCorner, type LineCut } from '$core/cut/section-line';
import type { CutRecord, ViewRecord } from '$core/document/records';
import { ARC_STRIDE } from '$core/outline/linework';
import { componentAt, type ViewResult } from '$core/views/compute-view';
import { cutThrough, newSection, slices, turnRound } from '$elements/view/sections';
import { call, type ApiFailure } from '$lib/shared/api';
import { notify } from '$lib/shared/notices.svelte';
import type { Drawing } from '$lib/shared/drawing.svelte';

interface Proposal {
  readonly keptWhole: readonly { readonly path: string; readonly why: string }[];
  readonly box: readonly [number, number, number, number];
  /** Where the middle of each component lies along the line of sight, mm. */
  readonly depths: readonly number[];
}

/** Points of a freehand outline keep this distance on paper, mm. */
const OUTLINE_STEP_MM = 1.2;

/** Cutting lines and breaks drawn on a view, and what can be done with sections. */
export class Sections {
  /** The view that is drawn on. */
  view = $state.raw<ViewRecord | undefined>(undefined);
  /** Corners so far; view plane, model mm. */
  points = $state.raw<readonly Vec2[]>([]);
  /** Where the next corner would be. */
  next = $state.raw<Vec2 | undefined>(undefined);
  busy = $state(false);
  private readonly drawing: Drawing;
  private readonly centres = new WeakMap<ViewResult, { x: Float64Array; y: Float64Array }>();

  private readonly done: () => void;

  /** @param done is called when a section stands, or when there is nothing more to draw */
  constructor(drawing: Drawing, done: () => void) {
    this.drawing = drawing;
    this.done = done;
  }

  clear(): void {
    this.view = undefined;
    this.points = [];
    this.next = undefined;
  }

  /** Takes the last corner back. @returns false when there is none */
  stepBack(): boolean {
    if (this.points.length === 0) return false;
    if (this.points.length === 1) this.clear();
    else this.points = this.points.slice(0, -1);
    return true;
  }

  private snapped(view: ViewRecord, at: Vec2, grace: number): Vec2 {
    const result = this.drawing.results.get(view.id);
    const near = (list: Float64Array | undefined, v: number) => {
      let best = v;
      let least = grace;
      for (const c of list ?? [])
        if (Math.abs(c - v) < least) {
          least = Math.abs(c - v);
          best = c;
        }
      return best;
    };
    const centres = result && this.centresOf(result);
    const first = snapCorner(this.points, at);
    const last = this.points.at(-1);
    const [x, y] = [near(centres?.x, first[0]), near(centres?.y, first[1])];
    if (!last) return [x, y];
    // On a stretch that runs level or upright only the free coordinate goes to a centre.
    if (Math.abs(first[1] - last[1]) < 1e-9) return [x, last[1]];
    if (Math.abs(first[0] - last[0]) < 1e-9) return [last[0], y];
    return x !== first[0] && y !== first[1] ? [x, y] : first;
  }

  /** Centres of the circles that the view shows: cutting lines go through them. */
  private centresOf(result: ViewResult) {
    let known = this.centres.get(result);
    if (!known) {
      const x = new Set<number>();
      const y = new Set<number>();
      const { arc } = result.lines;
      for (let i = 0; i < arc.length; i += ARC_STRIDE)
        if (arc[i + 2]! > 0) {
          x.add(arc[i]!);
          y.add(arc[i + 1]!);
        }
      x.add((result.box[0] + result.box[2]) / 2);
      y.add((result.box[1] + result.box[3]) / 2);
      known = { x: Float64Array.from(x), y: Float64Array.from(y) };
      this.centres.set(result, known);
    }
    return known;
  }

  /** A press on a view with the cutting-line tool; a press on the last corner ends the line. @param grace in model mm */
  press(view: ViewRecord, at: Vec2, grace: number): void {
    if (this.busy) return;
    if (this.view && this.view.id !== view.id) this.clear();
    const p = this.snapped(view, at, grace);
    const last = this.points.at(-1);
    if (last && Math.hypot(p[0] - last[0], p[1] - last[1]) < grace) {
      void this.finish();
      return;
    }
    this.view = view;
    this.points = [...this.points, p];
  }

  hover(view: ViewRecord, at: Vec2, grace: number): void {
    this.next = !this.view || this.view.id === view.id ? this.snapped(view, at, grace) : undefined;
  }

  /** Makes the section of the line drawn so far. */
  async finish(): Promise<void> {
    const { view, points } = this;
    if (!view || points.length < 2) return;
    const cut = cutFromLine(points, view);
    if ('wrong' in cut) {
      notify('trouble', cut.wrong);
      return;
    }
    this.clear();
    await this.addSection(view, cut);
  }

  /** A full section through the middle of a component, level or upright in the view. */
  async through(view: ViewRecord, component: number, upright: boolean): Promise<void> {
    const result = this.drawing.results.get(view.id);
    if (!result) return;
    const cut = cutThrough(view, result, component, upright);
    if (cut) await this.addSection(view, cut);
    else notify('trouble', 'The component does not show in this view. Select another view of it first.');
  }

  private async addSection(parent: ViewRecord, cut: LineCut): Promise<void> {
    const { drawing } = this;
    const proposal = await this.propose(cut);
    if (!proposal) return;
    const keptWhole = proposal.keptWhole.map((k) => k.path);
    const record = newSection(drawing.scene, { id: drawing.freshId('view:section'), parent, cut, keptWhole, box: proposal.box });
    drawing.edit(record.name, [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id: record.id });
    this.done();
  }

  /** A broken-out section inside a freehand outline, down to the middle of what lies in its middle. */
  async breakOut(): Promise<void> {
    const { view, points } = this;
    this.clear();
    if (!view) return;
    const outline = points.flat();
    if (points.length < 3 || Math.abs(areaOf(points)) * view.scale * view.scale < 9) {
      notify('trouble', 'Draw around what is to be broken out: press, go around it, and let go.');
      return;
    }
    const result = this.drawing.results.get(view.id);
    const middle: Vec2 = [points.reduce((s, p) => s + p[0], 0) / points.length, points.reduce((s, p) => s + p[1], 0) / points.length];
    const component = result ? componentAt(result, middle[0], middle[1]) : -1;
    const shape: CutShape = { kind: 'local', outline };
    const draft: LineCut = { frame: view, plane: { normal: view.toward, d: 0 }, shape };
    const first = await this.propose(draft);
    if (!first) return;
    const d = component >= 0 ? first.depths[component]! : 0;
    const kept = await this.propose({ ...draft, plane: { normal: view.toward, d } });
    if (!kept) return;
    const cut: CutRecord = { normal: view.toward, d, letter: '', keptWhole: kept.keptWhole.map((p) => p.path), shape, shownIn: null };
    this.drawing.edit('Broken-out section', [{ op: 'put', record: { ...view, cut } }]);
    this.drawing.select({ kind: 'record', id: view.id });
    this.done();
  }

  /** A point of the freehand outline. */
  trace(view: ViewRecord, at: Vec2): void {
    const last = this.points.at(-1);
    if (last && Math.hypot(at[0] - last[0], at[1] - last[1]) * view.scale < OUTLINE_STEP_MM) return;
    this.view = view;
    this.points = [...this.points, at];
  }

  /** What the section should keep whole, with reasons. */
  async suggestions(view: ViewRecord): Promise<Proposal['keptWhole']> {
    if (!view.cut) return [];
    const proposal = await this.propose({ frame: view, plane: view.cut, ...(view.cut.shape ? { shape: view.cut.shape } : {}) });
    return proposal?.keptWhole ?? [];
  }

  turnRound(view: ViewRecord): void {
    if (view.cut) this.drawing.edit('Turn the section round', turnRound(this.drawing.scene, view));
  }

  /** Slices of no depth at distances from the section's plane. */
  slices(view: ViewRecord, distances: readonly number[]): void {
    const { drawing } = this;
    const records = slices(drawing.scene, view, distances, () => drawing.freshId('view:slice'));
    if (records.length)
      drawing.edit(
        records.length === 1 ? 'Slice' : `${records.length} slices`,
        records.map((record) => ({ op: 'put', record })),
      );
  }

  private async propose(cut: LineCut): Promise<Proposal | undefined> {
    this.busy = true;
    try {
      const { right, up, toward } = cut.frame;
      const { normal, d } = cut.plane;
      return await call<Proposal>(`/api/jobs/${this.drawing.id}/section`, {
        method: 'POST',
        body: { frame: { right, up, toward }, cut: { normal, d, ...(cut.shape ? { shape: cut.shape } : {}) } },
      });
    } catch (e) {
      notify('trouble', (e as ApiFailure).message);
      return undefined;
    } finally {
      this.busy = false;
    }
  }
}

function areaOf(p: readonly Vec2[]): number {
  return p.reduce((s, a, i) => {
    const b = p[(i + 1) % p.length]!;
    return s + (a[0] * b[1] - b[0] * a[1]) / 2;
  }, 0);
}
