import type { Vec2 } from '$core/base/vector';
import type { CutShape } from '$core/cut/cut-shape';
import { cutFromLine, snapCorner, type LineCut } from '$core/cut/section-line';
import type { ViewRecord } from '$core/document/records';
import { componentAt } from '$core/views/compute-view';
import { brokenOut } from '$elements/view/break-out';
import { outlineBox, ringOf, type Outline } from '$core/views/outline';
import { snapPlacesOf, snapValue } from '$elements/view/snap-places';
import { projectedSide } from '$elements/view/in-line';
import { cutThrough, newSection, slices, turnRound } from '$elements/view/sections';
import { call, type ApiFailure } from '$lib/shared/api';
import { notify } from '$lib/shared/notices.svelte';
import type { Drawing } from '$lib/shared/drawing.svelte';

/** A section that projection has a place for, which is taken. */
const NO_ROOM =
  'There is no room for the section where projection has it: it stands free, under its letters. Make room and press Keep in line, or arrange the sheet (E).';

interface Proposal {
  readonly keptWhole: readonly { readonly path: string; readonly why: string }[];
  readonly box: readonly [number, number, number, number];
  /** Where the middle of each component lies along the line of sight, mm. */
  readonly depths: readonly number[];
}

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
    const result = this.drawing.scene.result(view.id);
    const near = (list: Float64Array | undefined, v: number) => snapValue(list, v, grace);
    const centres = result && snapPlacesOf(result);
    const first = snapCorner(this.points, at);
    const last = this.points.at(-1);
    const [x, y] = [near(centres?.x, first[0]), near(centres?.y, first[1])];
    if (!last) return [x, y];
    // On a stretch that runs level or upright only the free coordinate goes to a centre.
    if (Math.abs(first[1] - last[1]) < 1e-9) return [x, last[1]];
    if (Math.abs(first[0] - last[0]) < 1e-9) return [last[0], y];
    return x !== first[0] && y !== first[1] ? [x, y] : first;
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
    const result = this.drawing.scene.result(view.id);
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
    if (!record.align && projectedSide(record, parent, drawing.scene.drawing.standard)) notify('trouble', NO_ROOM);
    this.done();
  }

  /** Breaks a view out inside an outline, down to the middle of what lies in its middle. */
  async breakOut(view: ViewRecord, within: Outline): Promise<void> {
    const outline = Array.from(ringOf(within));
    const [x0, y0, x1, y1] = outlineBox(within);
    const result = this.drawing.scene.result(view.id);
    const component = result ? componentAt(result, (x0 + x1) / 2, (y0 + y1) / 2) : -1;
    const shape: CutShape = { kind: 'local', outline };
    const draft: LineCut = { frame: view, plane: { normal: view.toward, d: 0 }, shape };
    const first = await this.propose(draft);
    if (!first) return;
    const d = component >= 0 ? first.depths[component]! : 0;
    const kept = await this.propose({ ...draft, plane: { normal: view.toward, d } });
    if (!kept) return;
    const record = brokenOut(
      view,
      outline,
      d,
      kept.keptWhole.map((p) => p.path),
    );
    this.drawing.edit('Broken-out section', [{ op: 'put', record }]);
    this.drawing.select({ kind: 'record', id: view.id });
    this.done();
  }

  /** What the section should keep whole, with reasons. */
  async suggestions(view: ViewRecord): Promise<Proposal['keptWhole']> {
    if (!view.cut) return [];
    const proposal = await this.propose({ frame: view, plane: view.cut, ...(view.cut.shape ? { shape: view.cut.shape } : {}) });
    return proposal?.keptWhole ?? [];
  }

  turnRound(view: ViewRecord): void {
    const { steps, freed } = turnRound(this.drawing.scene, view);
    this.drawing.edit('Turn the section round', steps);
    if (freed) notify('trouble', NO_ROOM);
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
