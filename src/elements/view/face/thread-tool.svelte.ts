import type { ViewRecord } from '$core/document/records';
import type { Step } from '$core/document/steps';
import { hasAxis } from '$core/features/part-features';
import { threadIn } from '$core/thread/designation';
import { THREADS } from '$core/thread/sizes';
import type { Thread } from '$core/thread/threads-of';
import { pickedLines, targetsAt } from '$elements/pick-target';
import { equalHoles } from '$elements/note/words';
import { holdOf, type Target } from '$elements/target';
import type { Drawing } from '$lib/shared/drawing.svelte';
import { notify } from '$lib/shared/notices.svelte';
import type { Press, Sketch, Tool } from '$lib/sheets/tool';
import { SurfaceKind } from '$core/assembly/part-geometry';
import { holdSketch } from './hold-sketch';
import ThreadPanel from './ThreadPanel.svelte';
import { viewUnder } from './under';

interface OnCylinder {
  readonly view: ViewRecord;
  readonly target: Target;
  readonly component: number;
  readonly round: number;
  readonly face: { readonly component: string; readonly geometry: string; readonly face: number };
  readonly diameterMm: number;
}

/** Screw threads by hand: the cylinder that is pressed gets the designation that is written in the panel. */
export class ThreadTool implements Tool {
  readonly name = 'thread';
  readonly aims = true;
  readonly panel = ThreadPanel;
  /** The cylinder in hand. */
  on = $state.raw<OnCylinder | undefined>(undefined);
  private at = $state.raw<Press | undefined>(undefined);
  private readonly drawing: Drawing;

  constructor(drawing: Drawing) {
    this.drawing = drawing;
  }

  private cylinderAt(p: Press): OnCylinder | undefined {
    const { drawing } = this;
    const view = viewUnder(drawing, p.at);
    if (!view) return undefined;
    for (const target of targetsAt(drawing.scene, view, p.at, p.grace).filter(pickedLines)) {
      const ref = target.face ?? target.edge!;
      const component = drawing.scene.component(ref.component);
      const f = component && drawing.scene.features(component.index);
      if (!component || !f) continue;
      const faces = target.face ? [target.face.face] : [f.edgeFaces[target.edge!.edge * 2]!, f.edgeFaces[target.edge!.edge * 2 + 1]!];
      for (const face of faces) {
        const round = f.faceRound[face] ?? -1;
        if (round < 0 || f.rounds[round]!.kind !== SurfaceKind.cylinder || !hasAxis(f.rounds[round]!)) continue;
        return {
          view,
          target,
          component: component.index,
          round,
          face: { component: component.path, geometry: ref.geometry, face },
          diameterMm: 2 * f.rounds[round]!.radius,
        };
      }
    }
    return undefined;
  }

  /** The thread that the cylinder in hand has now. */
  get thread(): Thread | undefined {
    const { on, drawing } = this;
    return on && drawing.scene.threads.find((t) => t.component === on.component && t.round === on.round);
  }

  /** What would fit the cylinder: as wide as the thread outside, or as its hole. */
  get fitting(): readonly string[] {
    const d = this.on?.diameterMm;
    if (d === undefined) return [];
    const off = (t: (typeof THREADS)[number]) => Math.min(Math.abs(t.majorMm - d), Math.abs(t.majorMm - 1.082532 * t.pitchMm - d));
    return [...THREADS]
      .sort((a, b) => off(a) - off(b) || Number(b.coarse) - Number(a.coarse))
      .slice(0, 6)
      .map((t) => t.designation);
  }

  /** Faces of holes like the one in hand, that one first; of a shaft its own alone. */
  get alike(): readonly number[] {
    const { on, drawing } = this;
    if (!on) return [];
    const f = drawing.scene.features(on.component);
    if (!f?.rounds[on.round]?.inward) return [on.face.face];
    return [on.face.face, ...equalHoles(f, on.round).flatMap((r) => (r === on.round ? [] : (f.rounds[r]!.faces[0] ?? [])))];
  }

  /** @param all also the holes like it @returns whether the designation is one */
  set(designation: string, lengthMm: number | undefined, all: boolean): boolean {
    const { on, drawing } = this;
    if (!on || (designation !== '' && !threadIn(designation))) return false;
    const known = drawing.scene.all('thread');
    const steps = (all ? this.alike : [on.face.face]).map((face): Step => {
      const before = known.find((t) => t.face.geometry === on.face.geometry && t.face.face === face);
      const record = {
        type: 'thread' as const,
        id: before?.id ?? drawing.freshId('thread'),
        face: { ...on.face, face },
        designation,
        ...(lengthMm ? { lengthMm } : {}),
      };
      return { op: 'put', record };
    });
    drawing.edit(designation ? `Thread ${designation}` : 'No thread', steps);
    return true;
  }

  down(p: Press): boolean {
    this.at = p;
    const on = this.cylinderAt(p);
    if (on) this.on = on;
    else if (viewUnder(this.drawing, p.at))
      notify('trouble', 'A thread is on a hole or a shaft: press the outline or the circle of a whole cylinder, no rounded corner.');
    return on !== undefined;
  }

  move(p: Press): void {
    this.at = p;
  }

  up(): void {}

  cancel(): boolean {
    const busy = this.on !== undefined;
    this.on = undefined;
    return busy;
  }

  sketches(): readonly Sketch[] {
    const { on, at, drawing } = this;
    const shown = on ?? (at && this.cylinderAt(at));
    const hold = shown && holdOf(drawing.scene, shown.view, shown.target);
    return shown && hold ? [holdSketch(hold, drawing.scene.map(shown.view))] : [];
  }
}
