import { describe, expect, test } from 'vitest';
import { recordsOf, type DrawingRecord, type ViewRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { computeView } from '../../core/views/compute-view.ts';
import { specOf } from '../../core/views/view-spec.ts';
import { without } from '../../core/base/without.ts';
import { cross, dot } from '../../core/base/vector.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { carriedOver } from '../../core/document/file.ts';
import { frontOf } from '../../core/document/front.ts';
import { DIRECTION_NAMES, frameFrom, namedFrame, nameOfFrame, sameFrame, sideFrame } from '../../core/outline/directions.ts';
import { frontAtFace, frontStandingOn, nearestSide, resetFront, whatTurns } from './front.ts';

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
  test('what turns is said before', () => {
    expect(whatTurns(drawn.document)).toMatch(/^\d+ views on \d sheets, 1 of them cut; \d+ balloons follow$/);
  });
});

describe('sides of a drawing', () => {
  const turned = frameFrom([1, 0, 0], [0, 0, 1]);
  test('a direction snaps to the side it is nearest to', () => {
    expect(nearestSide([0.2, -0.9, 0.3], namedFrame('front'))).toEqual(namedFrame('front'));
    expect(nameOfFrame(nearestSide([0.2, -0.9, 0.3], turned), turned)).toBe('Left');
  });
  test('a face becomes the front: up stays up; the face that is the top takes the back up', () => {
    const front = namedFrame('front');
    expect(frontAtFace([1, 0, 0], front)).toEqual(namedFrame('right'));
    const top = frontAtFace([0, 0, 1], front);
    expect([top.toward, top.up]).toEqual(
      [
        [0, 0, 1],
        [0, 1, 0],
      ].map((v) => v.map((x) => expect.closeTo(x, 9) as number)),
    );
  });
  test('a face that the machine stands on: it lies below, also aslant, and the front stays in front', () => {
    const s = Math.SQRT1_2;
    for (const normal of [
      [0, 0, -1],
      [0, s, -s],
      [0, 1, 0],
      [1, 0, 0],
    ] as const) {
      const f = frontStandingOn(normal, namedFrame('front'));
      f.up.forEach((v, i) => expect(v).toBeCloseTo(-normal[i]!, 9));
      expect(dot(f.toward, f.up)).toBeCloseTo(0, 9);
      expect(dot(cross(f.right, f.up), f.toward)).toBeCloseTo(1, 9);
    }
    expect(sameFrame(frontStandingOn([0, 0, -1], namedFrame('front')), namedFrame('front'))).toBe(true);
    expect(dot(frontStandingOn([0, s, -s], namedFrame('front')).toward, [0, -1, 0])).toBeGreaterThan(0.7);
  });
  // One word for one side: whatever is called Front in a drawing looks from one direction.
  test('every named side of a drawing is called by that name again, whatever the front', () => {
    for (const front of [namedFrame('front'), turned, frameFrom([0, 0, 1], [0, 1, 0]), frameFrom([1, 2, 0.3], [0, 0, 1])])
      for (const n of DIRECTION_NAMES) expect(nameOfFrame(sideFrame(front, n), front).toLowerCase()).toBe(n);
  });
  test('a part on its own sheet and a flat pattern do not turn along', () => {
    const sheet = drawn.document['sheet:1'];
    if (sheet?.type !== 'sheet') throw new Error('no sheet');
    const own = { ...drawn.document, 'sheet:1': { ...sheet, part: machine.assembly.parts[0]!.id } };
    const touched = resetFront(own, assembly, drawn.components, turned).map((s) => (s.op === 'put' ? s.record.id : s.id));
    expect(touched).toContain('drawing');
    expect(touched).not.toContain('view:front');
    expect(touched).toContain('view:exploded');
  });
});

describe('a machine that is longer from front to back', () => {
  // Twice as deep as wide: the first drawing takes its long side as the front.
  const deep = assemblyOf([
    { name: 'Bed', geometry: box([-20, -60, 0], [20, 60, 10]) },
    { name: 'Post', geometry: cylinder(6, 40), at: [0, 50, 10] },
  ]);
  test('has one front: what is called by a side shows that side, and the drawing says which', async () => {
    const { document } = await draftAll(deep);
    const front = frontOf(document);
    expect(front.toward).toEqual([1, 0, 0]);
    const sides = recordsOf(document, 'view').filter((v) => ['Front', 'Top', 'Right', 'Isometric'].includes(v.name));
    expect(sides).toHaveLength(4);
    for (const v of sides) expect(nameOfFrame(v, front)).toBe(v.name);
    expect(sameFrame(document['view:isometric'] as ViewRecord, sideFrame(front, 'isometric'))).toBe(true);
  });
  test('a drawing of before keeps its pictures; a second “Front” gets the name of the side it shows', async () => {
    const { document } = await draftAll(deep);
    const before = without(document['drawing'] as DrawingRecord, 'front');
    const second = { ...(document['view:front'] as ViewRecord), id: 'view:2', ...namedFrame('front') };
    const after = carriedOver({ ...document, drawing: before, 'view:2': second }, 2);
    expect(frontOf(after).toward).toEqual([1, 0, 0]);
    expect(after['view:2']).toEqual({ ...second, name: 'Left' });
    expect(after['view:front']).toBe(document['view:front']);
  });
});
