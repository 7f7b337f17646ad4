import { without } from '$core/base/without';
import { dot, type Vec2, type Vec3 } from '$core/base/vector';
import type { CutShape } from '$core/cut/cut-shape';
import { cutFromLine, snapCorner, turnedRound, type LineCut } from '$core/cut/section-line';
import { nextLetter } from '$elements/view/letters';
import { drawingOf, recordsOf, type CutRecord, type ViewRecord } from '$core/document/records';
import type { Step } from '$core/document/steps';
import { placeBeside } from '$core/draft/beside';
import { OFF_FRAME_MM } from '$core/draft/new-view';
import { inflate, rectOf } from '$core/sheet/formats';
import { ARC_STRIDE } from '$core/outline/linework';
import { pageOf } from '$elements/compose';
import { viewRect } from '$elements/view/draw';
import { componentAt, type ViewResult } from '$core/views/compute-view';
import { call, type ApiFailure } from '../shared/api';
import { notify } from '../shared/notices.svelte';
import type { Drawing } from '../shared/drawing.svelte';

interface Proposal {
  readonly keptWhole: readonly { readonly path: string; readonly why: string }[];
  readonly box: readonly [number, number, number, number];
  /** Where the middle of each component lies along the line of sight, mm. */
  readonly depths: readonly number[];
}

/** Points of a freehand outline keep this distance on paper, mm. */
const OUTLINE_STEP_MM = 1.2;

/** Cutting lines and breaks drawn on a view, and what can be done with sections. */
export class SectionTool {
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
    const middle = middleOf(result, component);
    if (!middle) {
      notify('trouble', 'The component does not show in this view. Select another view of it first.');
      return;
    }
    const [x0, y0, x1, y1] = result.box;
    const cut = cutFromLine(
      upright
        ? [
            [middle[0], y0],
            [middle[0], y1],
          ]
        : [
            [x0, middle[1]],
            [x1, middle[1]],
          ],
      view,
    );
    if (!('wrong' in cut)) await this.addSection(view, cut);
  }

  private async addSection(parent: ViewRecord, cut: LineCut): Promise<void> {
    const { drawing } = this;
    const proposal = await this.propose(cut);
    if (!proposal) return;
    const letter = this.freeLetter();
    const id = drawing.freshId('view:section');
    const { at, pivot, align } = this.placeFor(parent, cut, proposal.box);
    const record: ViewRecord = {
      ...plainView(parent),
      id,
      name: `Section ${letter}–${letter}`,
      ...cut.frame,
      at,
      pivot,
      label: true,
      parent: align ? parent.id : null,
      align,
      cut: { ...cut.plane, ...(cut.shape ? { shape: cut.shape } : {}), letter, keptWhole: proposal.keptWhole.map((k) => k.path), shownIn: parent.id },
    };
    drawing.edit(`Section ${letter}–${letter}`, [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id });
    this.done();
  }

  /** Where the section stands: by projection if there is room (first angle beyond, third angle on the reader's side). */
  private placeFor(
    parent: ViewRecord,
    cut: LineCut,
    box: Proposal['box'],
  ): { at: readonly [number, number]; pivot: readonly [number, number]; align: ViewRecord['align'] } {
    const { drawing } = this;
    const list = drawing.composed.get(parent.sheet);
    const sheet = drawing.sheets.find((s) => s.id === parent.sheet)!;
    const f = pageOf(sheet).geometry.frame;
    const own = rectOf(viewRect(parent, drawing.results.get(parent.id)));
    const label = 14;
    const size: [number, number] = [(box[2] - box[0]) * parent.scale, (box[3] - box[1]) * parent.scale + label];
    const reader: Vec2 = [dot(cut.plane.normal, parent.right), -dot(cut.plane.normal, parent.up)];
    const k = drawingOf(drawing.document).standard === 'iso' ? -1 : 1;
    const square = Math.abs(reader[0]) > 0.999 ? 'level' : Math.abs(reader[1]) > 0.999 ? 'upright' : null;
    const direction =
      square === 'level' ? ([k * Math.sign(reader[0]), 0] as const) : square === 'upright' ? ([0, k * Math.sign(reader[1])] as const) : undefined;
    const obstacles = (list?.groups ?? []).filter((g) => g.role !== 'frame' && g.id !== parent.id).map((g) => rectOf(g.box));
    const place = placeBeside(own, direction, size, inflate(f, -OFF_FRAME_MM), obstacles);
    const pivot: [number, number] = [(box[0] + box[2]) / 2, (box[1] + box[3]) / 2];
    let [x, y] = place.at;
    y -= label / 2;
    const align = place.inLine && sharesAxis(parent, cut.frame, square) ? square : null;
    if (align === 'level') y = parent.at[1] - (pivot[1] - parent.pivot[1]) * parent.scale;
    if (align === 'upright') x = parent.at[0] + (pivot[0] - parent.pivot[0]) * parent.scale;
    return { at: [x, y], pivot, align };
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
    if (!view.cut) return;
    const { shape, ...cut } = view.cut;
    const r = turnedRound({ frame: view, plane: cut, ...(shape ? { shape } : {}) });
    const record: ViewRecord = {
      ...view,
      ...r.frame,
      pivot: [-view.pivot[0], view.pivot[1]],
      cut: { ...cut, ...r.plane, ...(r.shape ? { shape: r.shape } : {}) },
    };
    this.drawing.edit('Turn the section round', [{ op: 'put', record }]);
  }

  /** Slices of no depth at distances from the section's plane, in a row below it. */
  slices(view: ViewRecord, distances: readonly number[]): void {
    const { drawing } = this;
    const { cut } = view;
    if (!cut || distances.length === 0) return;
    const list = drawing.composed.get(view.sheet);
    const f = pageOf(drawing.sheets.find((s) => s.id === view.sheet)!).geometry.frame;
    const own = viewRect(view, drawing.results.get(view.id));
    const taken = (list?.groups ?? []).filter((g) => g.role !== 'frame').map((g) => rectOf(g.box));
    const letters = new Set(recordsOf(drawing.document, 'view').flatMap((v) => (v.cut ? [v.cut.letter] : [])));
    const ids = new Set<string>();
    const steps = distances.map((distance): Step => {
      const letter = nextLetter(letters);
      letters.add(letter);
      const id = drawing.freshId('view:slice', ids);
      ids.add(id);
      const size: [number, number] = [own[2], own[3] + 14];
      const place = placeBeside({ x: own[0], y: own[1], width: own[2], height: own[3] }, [1, 0], size, inflate(f, -OFF_FRAME_MM), taken);
      const at: [number, number] = [place.at[0] + (view.at[0] - own[0] - own[2] / 2), place.at[1] - 7 + (view.at[1] - own[1] - own[3] / 2)];
      taken.push({ x: place.at[0] - size[0] / 2, y: place.at[1] - size[1] / 2, width: size[0], height: size[1] });
      return {
        op: 'put',
        record: {
          ...view,
          id,
          name: `Slice ${letter}–${letter}`,
          at,
          parent: null,
          align: null,
          cut: { ...without(cut, 'shape'), d: cut.d + distance, letter, behindMm: 0 },
        },
      };
    });
    drawing.edit(steps.length === 1 ? 'Slice' : `${steps.length} slices`, steps);
  }

  private freeLetter(): string {
    return nextLetter(new Set(recordsOf(this.drawing.document, 'view').flatMap((v) => (v.cut ? [v.cut.letter] : []))));
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

/** A new view of the same kind and scale as another, without its cut and its neighbours. */
function plainView(v: ViewRecord): ViewRecord {
  return { ...v, hidden: false, shaded: false, cut: null, parent: null, align: null, spread: v.spread, pullLines: false };
}

/** Views in line share the axis that runs square to the line. */
function sharesAxis(parent: ViewRecord, frame: LineCut['frame'], align: ViewRecord['align']): boolean {
  const same = (a: Vec3, b: Vec3) => dot(a, b) > 0.9999;
  return align === 'level' ? same(parent.up, frame.up) : align === 'upright' ? same(parent.right, frame.right) : false;
}

function areaOf(p: readonly Vec2[]): number {
  return p.reduce((s, a, i) => {
    const b = p[(i + 1) % p.length]!;
    return s + (a[0] * b[1] - b[0] * a[1]) / 2;
  }, 0);
}

/** Middle of what a component shows in a view. */
function middleOf(result: ViewResult, component: number): Vec2 | undefined {
  const { window: w, component: map } = result.map;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < map.length; i++) {
    if (map[i] !== component) continue;
    const [x, y] = [i % w.width, Math.floor(i / w.width)];
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  }
  if (x1 < x0) return undefined;
  return [w.minX + ((x0 + x1 + 1) / 2) * w.pixelMm, w.maxY - ((y0 + y1 + 1) / 2) * w.pixelMm];
}
