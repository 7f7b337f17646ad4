import { describe, expect, test } from 'vitest';
import type { DrawingDocument, ViewRecord } from '../../core/document/records.ts';
import { applySteps, dropWithDependants, type Step } from '../../core/document/steps.ts';
import type { DisplayItem } from '../../core/picture/display-list.ts';
import { segmentsOf } from '../../core/picture/ink.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { takeOver } from '../../core/revision/take-over.ts';
import { paperByName, styleFor } from '../../core/sheet/paper.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { viewMapOf } from '../../core/views/view-map.ts';
import { composeSheet } from '../compose.ts';
import { Scene } from '../scene.ts';
import { circlesOf } from './circles.ts';
import { drawCentres } from './draw.ts';
import type { CentreRecord } from './kind.ts';
import { circleAt, toggleAll, toggleCircle } from './toggle.ts';

const machine = smallMachine();
const drawn = await draftAll(machine, { bare: true });
const top = drawn.document['view:top'] as ViewRecord;
const apply = (doc: DrawingDocument, steps: readonly Step[]): DrawingDocument => {
  const r = applySteps(doc, steps);
  if (!r.ok) throw new Error(r.reason);
  return r.document;
};
const sceneOf = (document: DrawingDocument) => new Scene({ ...drawn, document });
const marks = (document: DrawingDocument, sheet = top.sheet) => composeSheet(sceneOf(document), sheet).groups.filter((g) => g.role === 'centre');
const lines = (items: readonly DisplayItem[]) => items.flatMap((i) => (i.kind === 'stroke' ? segmentsOf(i.d) : []));
const only = (document: DrawingDocument) => Object.values(document).filter((r): r is CentreRecord => r.type === 'centre');

/** From above: a ring Ø22 about the post, a cap Ø18 over it, both about (0, -25). */
const centre = viewMapOf(top).toPaper([0, -25]);
const at = (r: number) => [centre[0] + r * top.scale, centre[1]] as const;

describe('all circles of a view', () => {
  const all = apply(drawn.document, toggleAll(sceneOf(drawn.document), top, 'centre:1'));
  test('those about one centre get one cross, 3 mm past the largest', () => {
    const [mark, ...more] = marks(all);
    expect(more).toEqual([]);
    const reach = 11 * top.scale + 3;
    const [x, y] = centre;
    expect(lines(mark!.items)).toEqual([
      [x - reach, y, x + reach, y].map((v) => expect.closeTo(v, 3) as number),
      [x, y - reach, x, y + reach].map((v) => expect.closeTo(v, 3) as number),
    ]);
  });
  test('are seen by pointing at a rim or a centre, within a few pixels', () => {
    const scene = sceneOf(drawn.document);
    const radius = (x: number, y: number) => circleAt(scene, top, [x, y], 1)?.radius;
    expect([radius(...at(11.2)), radius(...at(9.1)), radius(...at(40))]).toEqual([expect.closeTo(11, 6), expect.closeTo(9, 6), undefined]);
    expect(radius(...at(0.3))).toBeDefined();
  });
  test('one is taken off and comes back; once more for all takes all off', () => {
    const scene = sceneOf(all);
    const ring = circleAt(scene, top, at(11), 1)!;
    const less = apply(all, toggleCircle(scene, top, ring, 'x')!);
    expect(only(less)).toMatchObject([{ circle: null, off: [{ component: 'Ring' }] }]);
    // The cap decides how long the cross is now.
    const [x0, , x1] = lines(marks(less)[0]!.items)[0]!;
    expect(x1! - x0!).toBeCloseTo(2 * (9 * top.scale + 3), 3);
    const again = apply(less, toggleCircle(sceneOf(less), top, ring, 'x')!);
    expect(only(again)).toMatchObject([{ off: [] }]);
    expect(only(apply(again, toggleAll(sceneOf(again), top, 'y')))).toEqual([]);
  });
});

describe('one circle', () => {
  const scene = sceneOf(drawn.document);
  const cap = circleAt(scene, top, at(9), 1)!;
  const one = apply(drawn.document, toggleCircle(scene, top, cap, 'centre:1')!);
  test('is kept as the edge it is, pressed again its mark is off', () => {
    const key = machine.assembly.parts.find((p) => p.name === 'Cap')!.geometryKey;
    expect(only(one)).toMatchObject([{ view: 'view:top', circle: { component: 'Cap', geometry: key }, off: [] }]);
    expect(marks(one)).toHaveLength(1);
    expect(only(apply(one, toggleCircle(sceneOf(one), top, cap, 'x')!))).toEqual([]);
  });
  test('goes with its view', () => {
    expect(only(apply(one, dropWithDependants(one, 'view:top')))).toEqual([]);
    expect(applySteps(one, [{ op: 'put', record: { ...only(one)[0]!, view: 'view:none' } }])).toMatchObject({ ok: false });
  });
  test('follows a newer model to its edge, or is lost and said to be', () => {
    const newKey = 'another-shape';
    const after = { ...machine.assembly, parts: machine.assembly.parts.map((p) => (p.name === 'Cap' ? { ...p, geometryKey: newKey } : p)) };
    const matching = {
      parts: machine.assembly.parts.map((_, i) => ({ before: i, after: i })),
      components: drawn.components.map((c) => c.index),
      doubtful: [],
    } as unknown as Parameters<typeof takeOver>[3];
    const model = { type: 'model', id: 'model', model: '00000000-0000-4000-8000-000000000001', name: 'x' } as const;
    const taken = takeOver(machine.assembly, after, one, matching, model, { edges: (_b, _a, e) => e + 1 });
    expect(only(apply(one, taken.steps))).toMatchObject([{ circle: { component: 'Cap', geometry: newKey, edge: cap.edge + 1 } }]);
    expect(taken.losses).toEqual([]);
    const lost = takeOver(machine.assembly, after, one, matching, model, { edges: () => undefined });
    expect(lost.losses).toMatchObject([{ record: 'centre:1', text: 'A centre mark lost its edge of “Cap”, which has another shape now.' }]);
    const document = apply(one, lost.steps);
    expect(only(document)).toMatchObject([{ circle: { lost: true } }]);
    const now = new Scene({ ...drawn, assembly: after, document });
    expect(composeSheet(now, top.sheet).groups.find((g) => g.role === 'centre')).toMatchObject({ items: [], label: 'Centre mark that lost its circle' });
    expect(findingsOf(now).filter((f) => f.code === 'LOST_EDGE')).toMatchObject([{ sheet: top.sheet, about: ['centre:1'] }]);
  });
  test('that a cut laid open cannot be kept: it is no edge of the part', () => {
    const section = drawn.document['view:section'] as ViewRecord;
    const result = drawn.results.get(section.id)!;
    const component = result.caps[0]!.component;
    expect(toggleCircle(scene, section, { x: 0, y: 0, radius: 5, component, edge: -1 }, 'x')).toBeUndefined();
  });
});

describe('what counts as a circle', () => {
  test('a whole one or more than half of one, seen as it is; each once', () => {
    const found = circlesOf(drawn.results.get('view:top')!);
    expect(found.map((c) => c.radius).sort((a, b) => a - b)).toEqual([9, 11].map((r) => expect.closeTo(r, 6) as number));
    // From the front the post is no circle.
    expect(circlesOf(drawn.results.get('view:front')!)).toEqual([]);
    // On the slant circles are ellipses.
    expect(circlesOf(drawn.results.get('view:isometric')!)).toEqual([]);
  });
});

describe('the lines of a cross', () => {
  const style = styleFor(paperByName('A3')!);
  const map = { ...viewMapOf({ at: [0, 0], pivot: [0, 0], scale: 1 }) };
  const circle = (radius: number) => ({ x: 0, y: 0, radius, component: 0, edge: 0 });
  test.each([4, 7, 13, 40, 120])('cross in a dash and end in one, radius %d mm', (r) => {
    const [level] = drawCentres([circle(r)], map, style);
    if (level?.kind !== 'stroke' || !level.dash) throw new Error('no chain');
    const [from, , to] = segmentsOf(level.d)[0]!;
    const length = to! - from!;
    const drawnAt = (d: number) => {
      let rest = d % level.dash!.reduce((a, b) => a + b, 0);
      for (const [i, piece] of level.dash!.entries()) {
        if (rest < piece - 1e-9) return i === 0;
        rest -= piece;
      }
      return true;
    };
    expect([drawnAt(0.01), drawnAt(length / 2), drawnAt(length - 0.01)]).toEqual([true, true, true]);
    // Dashes are the narrow chain of the standard, stretched a little.
    expect(level.width).toBe(style.narrow);
  });
  test('small circles have plain crosses, specks none', () => {
    expect(drawCentres([circle(2)], map, style).map((i) => i.kind === 'stroke' && i.dash)).toEqual([undefined, undefined]);
    expect(drawCentres([circle(0.5)], map, style)).toEqual([]);
  });
});
