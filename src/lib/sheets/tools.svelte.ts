import { aimAt } from '$elements/balloon/place/aim';
import { proposeBalloons, standingBalloon, type BalloonArea } from '$elements/balloon/place/propose';
import { boxInFrame, OFF_FRAME_MM, roomFor } from '$core/draft/new-view';
import { motionsOf } from '$core/explode/spread';
import { pullsOf } from '$core/explode/records';
import type { ViewFrame } from '$core/outline/directions';
import { pageOf } from '$elements/compose';
import { inflate, rectOf, standardScales } from '$core/sheet/formats';
import { dropWithDependants } from '$core/document/steps';
import { drawingOf, recordsOf, viewsOn, type BalloonRecord, type ViewRecord } from '$core/document/records';
import { viewRect } from '$elements/view/draw';
import { arrangeAnew, balloonArea } from '../shared/balloons';
import { notify } from '../shared/notices.svelte';
import type { Drawing } from '../shared/drawing.svelte';
import { SectionTool } from './section-tool.svelte';

export type ToolName = 'pick' | 'balloon' | 'section' | 'break';

/** What the shelf, the keys and the quick bar share. */
export class Tools {
  tool = $state<ToolName>('pick');
  quickBar = $state(false);
  ledger = $state(true);
  slip = $state(true);
  fit: () => void = () => {};
  zoomBy: (factor: number) => void = () => {};
  readonly sections: SectionTool;
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
    this.sections = new SectionTool(drawing, () => (this.tool = 'pick'));
  }

  /** Steps back: tool, then selection. */
  stepBack(): void {
    if (this.sections.stepBack()) return;
    if (this.tool !== 'pick') this.take('pick');
    else this.drawing.select({ kind: 'none' });
  }

  take(tool: ToolName): void {
    this.sections.clear();
    this.tool = tool;
  }

  /** A balloon for the component under the pointer; x, y on the sheet. */
  addBalloon(view: ViewRecord, component: number, x: number, y: number): void {
    const { drawing } = this;
    const result = drawing.results.get(view.id);
    const item = drawing.itemOfComponent.get(component);
    if (!result || !item) return;
    const vx = view.pivot[0] + (x - view.at[0]) / view.scale;
    const vy = view.pivot[1] - (y - view.at[1]) / view.scale;
    const aim = aimAt(result, vx, vy, component);
    if (!aim) return;
    const [bx, by, w, h] = viewRect(view, result);
    const left = x < bx + w / 2;
    const id = this.drawing.freshId(`balloon:${item.part}`);
    const record: BalloonRecord = {
      type: 'balloon',
      id,
      view: view.id,
      component: drawing.components[component]!.path,
      anchor: [aim.x, aim.y],
      offset: [(left ? bx - 13 : bx + w + 13) - view.at[0], Math.min(by + h, Math.max(by, y - 12)) - view.at[1]],
      end: 'arrow',
    };
    drawing.edit(`Add balloon ${item.number}`, [{ op: 'put', record }]);
    drawing.select({ kind: 'record', id });
    this.tool = 'pick';
  }

  /** From a full section to a half one and back: the half to the right of the view's middle is cut. */
  toggleHalf(view: ViewRecord): void {
    if (!view.cut) return;
    const { shape, ...cut } = view.cut;
    const half = { kind: 'half', across: view.right, from: view.pivot[0] } as const;
    this.drawing.edit(shape ? 'Full section' : 'Half section', [{ op: 'put', record: { ...view, cut: shape ? cut : { ...cut, shape: half } } }]);
  }

  /** Balloons for every item that has none yet and can be seen in the view. */
  identifyRest(view: ViewRecord): void {
    const { drawing } = this;
    const result = drawing.results.get(view.id);
    if (!result) return;
    const done = new Set(recordsOf(drawing.document, 'balloon').map((b) => drawing.itemOfPath(b.component)?.part));
    const open = drawing.items.filter((i) => !done.has(i.part));
    const proposed = proposeBalloons(view, result, open, drawing.components, this.roomFor(view), (part) => this.drawing.freshId(`balloon:${part}`));
    const steps = proposed.map(({ record }) => ({ op: 'put' as const, record }));
    if (steps.length) drawing.edit(`Identify ${steps.length} items`, steps);
    else
      notify(
        'trouble',
        open.length ? 'No further item can be identified here: none has a visible edge with room for a balloon.' : 'Every item has its balloon.',
      );
  }

  /** Balloons that are there already are in the way too. */
  private roomFor(view: ViewRecord): BalloonArea {
    const standing = recordsOf(this.drawing.document, 'balloon')
      .filter((b) => b.view === view.id)
      .map((b) => standingBalloon(b, view));
    return { ...balloonArea(this.drawing, view), standing };
  }

  arrangeBalloons(view: ViewRecord): void {
    void arrangeAnew(this.drawing, view.id);
  }

  /**
   * Puts a view on the open sheet where there is room for it, at the scale of another view or the next smaller one that fits.
   * @param like what it takes over from another view
   * @param spread that it shows; null: everything together
   */
  addView(name: string, frame: ViewFrame, spread: string | null, like?: ViewRecord): void {
    const { drawing } = this;
    const { document, assembly, components } = drawing;
    const sheet = drawing.sheets.find((s) => s.id === (like?.sheet ?? drawing.sheetId));
    if (!sheet) return;
    const f = pageOf(sheet).geometry.frame;
    const here = viewsOn(document, sheet.id);
    const beside = like ?? here[0];
    const boxOf = (of: ViewFrame, shown: string | null) => {
      const record = shown === null ? undefined : document[shown];
      return boxInFrame(assembly, components, of, motionsOf(record?.type === 'spread' ? pullsOf(record, components) : [], components.length));
    };
    const [x0, y0, x1, y1] = boxOf(frame, spread);
    const standard = standardScales(drawingOf(document).standard);
    const most = beside?.scale ?? Math.max(...recordsOf(document, 'view').map((v) => v.scale), 0.1);
    // One that is still being drawn is as large as its parts say.
    const rectOfView = (v: ViewRecord) => rectOf(viewRect(v, drawing.results.get(v.id) ?? { box: boxOf(v, v.spread) }));
    const near = beside ? rectOfView(beside) : { x: f.x + f.width / 2, y: f.y + f.height / 2, width: 0, height: 0 };
    const groups = drawing.composed.get(sheet.id)?.groups ?? [];
    const others = groups.filter((g) => g.role !== 'frame' && g.role !== 'view').map((g) => rectOf(g.box));
    const obstacles = [...others, ...here.filter((v) => v.id !== beside?.id).map(rectOfView)];
    const scales = standard.filter((s) => s <= most * 1.001);
    const room = roomFor([x1 - x0, y1 - y0], scales.length ? scales : [most], near, inflate(f, -OFF_FRAME_MM), obstacles);
    const id = drawing.freshId(`view:${name.toLowerCase().replace(/[^a-z]+/g, '-')}`);
    const { right, up, toward } = frame;
    const plain = { hidden: false, tangent: false, shaded: false, label: false } as const;
    const view: ViewRecord = {
      ...(like ?? plain),
      type: 'view',
      id,
      sheet: sheet.id,
      name,
      right,
      up,
      toward,
      scale: room.scale,
      at: room.at,
      pivot: [(x0 + x1) / 2, (y0 + y1) / 2],
      parent: null,
      align: null,
      cut: null,
      spread,
      pullLines: spread !== null,
    };
    drawing.edit(`Add view ${name}`, [{ op: 'put', record: view }]);
    drawing.select({ kind: 'record', id });
    if (!room.free) notify('trouble', 'There is no free room on this sheet. The view stands where it covers least: move it, or take a larger sheet.');
  }

  /** Removes what is selected, with what hangs on it. */
  remove(): void {
    const s = this.drawing.selection;
    if (s.kind !== 'record') return;
    const r = this.drawing.document[s.id];
    if (!r || r.type === 'drawing') return;
    if (r.type === 'sheet' && this.drawing.sheets.length === 1) {
      notify('trouble', 'The last sheet stays.');
      return;
    }
    this.drawing.edit(`Remove ${r.type}`, dropWithDependants(this.drawing.document, s.id));
    this.drawing.select({ kind: 'none' });
  }
}
