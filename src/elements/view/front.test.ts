import { describe, expect, test } from 'vitest';
import { recordsOf, type ViewRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { computeView } from '../../core/views/compute-view.ts';
import { specOf } from '../../core/views/view-spec.ts';
import { dot } from '../../core/base/vector.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { frameFrom } from '../../core/outline/directions.ts';
import { frontOf, nearestAxis, resetFront, upFor } from './front.ts';

const machine = smallMachine();
const drawn = await draftAll(machine);
const { assembly } = machine;

describe('another front', () => {
  const front = frameFrom([1, 0, 0], [0, 0, 1]);
  const steps = resetFront(drawn.document, assembly, drawn.components, front);
  const done = applySteps(drawn.document, steps);
  if (!done.ok) throw new Error(done.reason);
  const view = (id: string, doc = done.document) => doc[id] as ViewRecord;

  test('every view turns along and keeps its angle to the front', () => {
    expect(frontOf(done.document)).toEqual(front);
    for (const v of recordsOf(drawn.document, 'view')) {
      const now = view(v.id);
      expect(dot(now.toward, front.toward)).toBeCloseTo(dot(v.toward, frontOf(drawn.document).toward), 9);
      expect(dot(now.right, now.up)).toBeCloseTo(0, 9);
      expect([now.at, now.scale]).toEqual([v.at, v.scale]);
    }
    // The plan still looks from above.
    expect(view('view:top').toward.map((x) => Math.round(x))).toEqual([0, 0, 1]);
  });
  test('the new front shows what the old right view showed, and stays in the middle of its place', () => {
    const computed = (v: ViewRecord) => computeView(assembly, machine.geometries, specOf(v, done.document, drawn.components));
    const now = computed({ ...view('view:front'), cut: null });
    const before = computed({ ...(drawn.document['view:right'] as ViewRecord), cut: null });
    expect(now.box[2] - now.box[0]).toBeCloseTo(before.box[2] - before.box[0], 6);
    expect((now.box[0] + now.box[2]) / 2 - view('view:front').pivot[0]).toBeCloseTo(0, 6);
  });
  test('a section turns with its plane: it cuts as far from the middle as before', () => {
    const is = view('view:section').cut!;
    // The machine's middle lies at x = y = 0; the section ran 25 mm in front of it.
    expect((drawn.document['view:section'] as ViewRecord).cut!.d).toBeCloseTo(25, 6);
    expect(is.d).toBeCloseTo(25, 6);
    expect(dot(is.normal, view('view:section').toward)).toBeCloseTo(1, 9);
    const cut = computeView(assembly, machine.geometries, specOf(view('view:section'), done.document, drawn.components));
    expect(cut.caps.map((c) => drawn.components[c.component]!.name)).toEqual(['Plate']);
  });
  test('and back again is where it was', () => {
    const back = applySteps(done.document, resetFront(done.document, assembly, drawn.components, frontOf(drawn.document)));
    if (!back.ok) throw new Error(back.reason);
    const [v, first] = [view('view:section', back.document), view('view:section', drawn.document)];
    expect(v.cut!.d).toBeCloseTo(first.cut!.d, 6);
    v.pivot.forEach((p, i) => expect(p).toBeCloseTo(first.pivot[i]!, 6));
  });
  test('a direction snaps to its axis, and up is never along it', () => {
    expect(nearestAxis([0.2, -0.9, 0.3])).toEqual([0, -1, 0]);
    expect([upFor([0, 0, 1], [0, 0, 1]), upFor([1, 0, 0], [0, 0, 1])]).toEqual([
      [0, 1, 0],
      [0, 0, 1],
    ]);
  });
});
