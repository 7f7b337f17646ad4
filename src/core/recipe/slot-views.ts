import type { Assembly, Component } from '../assembly/assembly.ts';
import type { PartGeometry } from '../assembly/part-geometry.ts';
import { dot, scale } from '../base/vector.ts';
import { suggestKeptWhole } from '../cut/keep-whole.ts';
import { suggestSection } from '../cut/main-axis.ts';
import type { Plane } from '../cut/plane-cut.ts';
import { PLAIN_VIEW, type DrawingDocumentRecord, type ViewRecord } from '../document/records.ts';
import { frontOf } from '../document/front.ts';
import { principalFrames } from '../draft/arrangement.ts';
import { partAlone } from '../draft/exploded-groups.ts';
import { MOST_FITTED } from '../draft/first-drawing.ts';
import { roomBeside } from '../draft/room.ts';
import { fitSpread } from '../explode/fit.ts';
import { heldRecord } from '../explode/held.ts';
import { planSpread } from '../explode/plan.ts';
import { pullRecord } from '../explode/records.ts';
import { chosenKs, flatKey } from '../flat/k-factor.ts';
import { featuresOf, featuresSource } from '../features/part-features.ts';
import { frameFrom, sideFrame, type ViewFrame } from '../outline/directions.ts';
import type { Body } from '../outline/scene.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { viewBox } from '../shade/raster.ts';
import { titleBlockRect } from '../sheet/page.ts';
import { scalesFor, type SheetGeometry, type Standard } from '../sheet/paper.ts';
import { specOf } from '../views/view-spec.ts';
import { Scene } from '../../elements/scene.ts';
import { lettersOf, nextLetter } from '../../elements/view/letters.ts';
import type { RecipeOptions } from './apply.ts';
import type { Records, Waiting } from './fit-on-sheet.ts';
import { lookAt, seenFrom, type Side } from './part-look.ts';
import type { RecipeSlot } from './record.ts';
import type { Subject } from './subjects.ts';

export type ViewSlot = Extract<RecipeSlot, { readonly want: 'view' | 'section' | 'exploded view' | 'part views' | 'arrangement' | 'flat pattern' }>;
export const VIEW_SLOTS: ReadonlySet<string> = new Set<ViewSlot['want']>(['view', 'section', 'exploded view', 'part views', 'arrangement', 'flat pattern']);

/** A view that waits for its place, and what is put onto it there. */
export interface Wanted extends Waiting {
  readonly balloons: boolean;
  readonly dimensions: boolean;
  readonly centrelines: boolean;
}

const SIDE_NAMES: Readonly<Record<Side, string>> = { right: 'Right', left: 'Left', top: 'Top', bottom: 'Bottom' };

/** What the views of slots are made from. */
export interface SlotContext {
  readonly assembly: Assembly;
  readonly components: readonly Component[];
  readonly geometries: ReadonlyMap<string, PartGeometry>;
  readonly options: RecipeOptions & { readonly standard: Standard };
  /** Of the drawing as far as it stands; more come. */
  readonly records: Readonly<Record<string, DrawingDocumentRecord>>;
  /** The sheet that an exploded view is spread for. */
  paper(): SheetGeometry;
  freshId(type: string, own?: Records, taken?: ReadonlySet<string>): string;
}

/** Makes the views that slots ask for. */
export class SlotViews {
  private readonly context: SlotContext;
  private readonly bodies: readonly Body[];
  private readonly features;

  constructor(context: SlotContext) {
    this.context = context;
    this.bodies = sceneOf(context.assembly, context.geometries);
    this.features = featuresSource(context.geometries);
  }

  /** Views of a slot, or why there are none. */
  async viewsFor(
    slot: ViewSlot,
    subject: Subject,
    sheet: string,
    before: readonly Wanted[],
    own: Record<string, DrawingDocumentRecord>,
  ): Promise<Wanted[] | string> {
    const part = subject.components.length === 1 && this.context.components.length > 1;
    const shows = subject.id === 'whole' ? {} : { shows: { only: true, of: subject.components.map((c) => this.context.components[c]!.path) } };
    const bodies = this.bodies.filter((b) => subject.components.includes(b.component));
    if (!bodies.length) return 'It has no geometry.';
    const besides = {
      balloons: 'balloons' in slot && slot.balloons === true,
      dimensions: 'dimensions' in slot && slot.dimensions === true,
      centrelines: 'centrelines' in slot && slot.centrelines === true,
    };
    const taken = new Set(before.map((w) => w.view.id));
    const view = (name: string, frame: ViewFrame, more: Partial<ViewRecord> = {}): ViewRecord => {
      const id = this.context.freshId('view', own, taken);
      taken.add(id);
      return { type: 'view', id, sheet, name, ...frame, ...PLAIN_VIEW, ...shows, ...more };
    };
    const computed = async (list: readonly (Omit<Wanted, 'result'> & { readonly view: ViewRecord })[]): Promise<Wanted[]> => {
      const doc = { ...this.context.records, ...own, ...Object.fromEntries(list.map((w) => [w.view.id, w.view])) };
      const results = await Promise.all(list.map((w) => this.context.options.compute(specOf(w.view, doc, this.context.components, this.context.assembly))));
      return list.map((w, i) => ({ ...w, result: results[i]! }));
    };
    const letter = () =>
      nextLetter(new Set([...lettersOf(new Scene({ document: this.context.records, assembly: this.context.assembly, results: new Map() }))]));
    switch (slot.want) {
      case 'part views': {
        if (subject.components.length !== 1) return 'It is more than one part.';
        return computed(this.partViews(subject, view, besides, letter));
      }
      case 'view':
      case 'arrangement': {
        const frames = part ? this.framesOfPart(subject) : principalFrames(this.front);
        if (slot.want === 'arrangement') {
          const front = view('Front', frames.front);
          const list = [
            { view: front, ...besides },
            { view: view('Top', frames.top, { parent: front.id, align: 'upright' }), side: 'top' as const, ...besides },
            { view: view('Right', frames.right, { parent: front.id, align: 'level' }), side: 'right' as const, ...besides },
            { view: view('Isometric', frames.isometric, { shaded: true, tangent: true }), pictorial: true as const, ...besides },
          ];
          return computed(list);
        }
        const frame = slot.axes ?? (slot.look ? ((frames as Readonly<Record<string, ViewFrame>>)[slot.look] ?? sideOf(frames.front, slot.look)) : frames.front);
        const parent = slot.beside === undefined ? undefined : before[slot.beside]?.view;
        const side = parent && sideBetween(parent, frame);
        const more: Partial<ViewRecord> = {
          ...(slot.hidden ? { hidden: true } : {}),
          ...(slot.tangent ? { tangent: true } : {}),
          ...(slot.shaded ? { shaded: true } : {}),
          ...(parent && side ? { parent: parent.id, align: side === 'left' || side === 'right' ? ('level' as const) : ('upright' as const) } : {}),
        };
        const pictorial = [frame.toward, frame.right, frame.up].every((v) => v.every((x) => Math.abs(x) < 1 - 1e-6));
        return computed([{ view: view(slot.name, frame, more), ...besides, ...(side ? { side } : {}), ...(pictorial ? { pictorial: true as const } : {}) }]);
      }
      case 'flat pattern': {
        const laid = subject.components.length === 1 ? this.laid(subject.components[0]!) : undefined;
        if (!laid) return 'It is no bent sheet part.';
        const frame: ViewFrame = { right: [1, 0, 0], up: [0, 1, 0], toward: [0, 0, 1] };
        return computed([{ view: view(slot.name, frame, { laid: true, tangent: true }), ...besides }]);
      }
      case 'section': {
        const front = part ? this.framesOfPart(subject).front : this.front;
        const { plane } = suggestSection(bodies, front);
        const kept =
          subject.components.length > 1
            ? suggestKeptWhole(this.context.assembly, this.context.components, this.bodies, plane).filter((k) => subject.components.includes(k.component))
            : [];
        const l = letter();
        const line = before.find((w) => !w.view.cut && !w.view.spread && Math.abs(dot(w.view.toward, plane.normal)) < 0.02);
        const frame = frameFrom(plane.normal, Math.abs(dot(plane.normal, front.up)) > 0.9 ? scale(front.toward, -1) : front.up);
        const cut = this.cut(
          plane,
          l,
          line?.view.id ?? null,
          kept.map((k) => this.context.components[k.component]!.path),
        );
        return computed([{ view: view(`Section ${l}–${l}`, frame, { label: true, cut }), ...besides }]);
      }
      case 'exploded view': {
        if (subject.components.length < 2) return 'One piece cannot come apart.';
        const frame = sideFrame(this.front, 'isometric');
        const { assembly, bodies: alone, whole, held } = partAlone(this.context.assembly, this.context.components, this.bodies, subject.components);
        const plan = planSpread(assembly, alone, { frame, ...(this.context.options.cancel ? { cancel: this.context.options.cancel } : {}) });
        if (!plan.pulls.length) return 'Nothing in it comes apart.';
        const paper = this.context.paper();
        const room = roomBeside(paper.frame, [titleBlockRect(paper)]);
        const scales = scalesFor(this.context.options.standard, Math.max(1e-9, ...viewBox(alone, frame).map(Math.abs)));
        const fit = alone.length <= MOST_FITTED ? fitSpread(alone, plan.pulls, { frame, room, scales, ways: plan.pulls.map((p) => p.ways) }) : plan;
        const spread = this.context.freshId('spread', own);
        const stuck = held(plan.stuck).map((s) => heldRecord(s, this.context.components));
        own[spread] = {
          type: 'spread',
          id: spread,
          name: subject.name || 'Spread',
          pulls: whole(fit.pulls).map((p) => pullRecord(p, this.context.components)),
          ...(stuck.length ? { held: stuck } : {}),
        };
        return computed([{ view: view(slot.name, frame, { spread, pullLines: true, tangent: true, ...(slot.shaded ? { shaded: true } : {}) }), ...besides }]);
      }
    }
  }

  private cut(plane: Plane, letter: string, shownIn: string | null, keptWhole: readonly string[] = []): NonNullable<ViewRecord['cut']> {
    return { normal: plane.normal, d: plane.d, letter, keptWhole, shownIn };
  }

  /** The fewest views of a part. */
  private partViews(
    subject: Subject,
    view: (name: string, frame: ViewFrame, more?: Partial<ViewRecord>) => ViewRecord,
    besides: Pick<Wanted, 'balloons' | 'dimensions' | 'centrelines'>,
    letter: () => string,
  ): (Omit<Wanted, 'result'> & { readonly view: ViewRecord })[] {
    const look = this.lookOf(subject);
    const out: (Omit<Wanted, 'result'> & { view: ViewRecord })[] = [];
    const l = letter();
    const front = view('Front', look.front);
    out.push({ view: front, ...besides });
    for (const n of look.neighbours) {
      const level = n.from === 'left' || n.from === 'right';
      out.push({ view: view(SIDE_NAMES[n.from], n.frame, { parent: front.id, align: level ? 'level' : 'upright' }), side: n.from, ...besides });
    }
    if (look.frontCut) {
      const endOn = out.find((w) => w.side)?.view;
      // Its line is drawn where the axis is seen end-on; without such a view the section speaks for itself.
      out[0] = { ...out[0]!, view: { ...front, name: `Section ${l}–${l}`, label: true, cut: this.cut(look.frontCut, l, endOn?.id ?? null) } };
    } else if (look.section) {
      const { from, frame, plane } = look.section;
      const level = from === 'left' || from === 'right';
      const section = view(`Section ${l}–${l}`, frame, {
        label: true,
        cut: this.cut(plane, l, front.id),
        parent: front.id,
        align: level ? 'level' : 'upright',
      });
      out.push({ view: section, side: from, ...besides });
    }
    const none = { balloons: false, dimensions: false, centrelines: false };
    out.push({ view: view('Isometric', look.pictorial, { shaded: true, tangent: true }), pictorial: true, ...none });
    return out;
  }

  /** The flat pattern of a component, if it is bent from sheet. */
  laid(component: number) {
    const { assembly, components, records } = this.context;
    const key = assembly.parts[components[component]!.part]!.geometryKey;
    return this.features.get(flatKey(key, chosenKs(assembly, records).get(key)))?.laid;
  }

  private lookOf(subject: Subject) {
    const c = this.context.components[subject.components[0]!]!;
    const geometry = this.context.geometries.get(this.context.assembly.parts[c.part]!.geometryKey)!;
    return lookAt(featuresOf(geometry), c.placement);
  }

  /** The front of the drawing that the views are for. */
  private get front(): ViewFrame {
    return frontOf(this.context.records);
  }

  private framesOfPart(subject: Subject) {
    const { front, pictorial } = this.lookOf(subject);
    return { front, top: seenFrom(front, 'top'), right: seenFrom(front, 'right'), isometric: pictorial };
  }
}

/** A look by name from a front: those that the principal views do not have. */
function sideOf(front: ViewFrame, look: string): ViewFrame {
  if (look === 'left' || look === 'bottom') return seenFrom(front, look);
  const back = (v: ViewFrame['up']): ViewFrame['up'] => [-v[0], -v[1], -v[2]];
  return { right: back(front.right), up: front.up, toward: back(front.toward) };
}

/** From which side of its parent something is seen; undefined when it is not in line with it. */
function sideBetween(parent: ViewFrame, { toward }: ViewFrame): Side | undefined {
  const [x, y] = [dot(toward, parent.right), dot(toward, parent.up)];
  if (x > 1 - 1e-6) return 'right';
  if (x < -1 + 1e-6) return 'left';
  if (y > 1 - 1e-6) return 'top';
  return y < -1 + 1e-6 ? 'bottom' : undefined;
}
