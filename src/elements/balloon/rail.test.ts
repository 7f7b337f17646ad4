import { describe, expect, test } from 'vitest';
import { lockedNumber, renumbered } from '../../core/ledger/numbering.ts';
import { runningOrder } from './running-order.ts';
import type { BalloonRecord, DrawingDocument, ViewRecord } from '../../core/document/records.ts';
import { applySteps, type Step } from '../../core/document/steps.ts';
import { draftAll } from '../../core/testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../../core/testing/shapes.ts';
import { Scene } from '../scene.ts';
import { viewRect } from '../view/draw.ts';
import { balloonPlace, drawBalloon, secondTip } from './draw.ts';
import { balloonKind } from './kind.ts';
import { balloonAreaOf, identified, identifyOnSheet, itemsInWindow, withSecond } from './place/add.ts';
import { arrangeBalloons } from './place/propose.ts';
import { RAIL_NAMES, type Rail } from './rail.ts';
import { stackedAll } from './stack.ts';

/** A plate with four posts of different sizes, two like pins, and a bolt with a washer and a nut. */
const machine = assemblyOf([
  { name: 'Plate', geometry: box([-60, -40, 0], [60, 40, 8]) },
  ...(
    [
      ['Post A', -45, 12],
      ['Post B', -15, 20],
      ['Post C', 15, 28],
      ['Post D', 45, 36],
    ] as const
  ).map(([name, x, h]) => ({ name, geometry: box([x - 6, -6, 8], [x + 6, 6, 8 + h]) })),
  { name: 'Bolt M8', geometry: cylinder(4, 40), at: [0, 25, -10] as const },
  { name: 'Washer 8', geometry: cylinder(8, 2, 32, 4.2), at: [0, 25, 8] as const },
  { name: 'Nut M8', geometry: cylinder(6.5, 7, 6, 4), at: [0, 25, 10] as const },
]);
const drawn = await draftAll(machine);
const after = (scene: Scene, steps: readonly Step[]): Scene => {
  const r = applySteps(scene.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return new Scene({ ...drawn, document: r.document as DrawingDocument });
};
const { scene } = drawn;
const front = scene.all('view').find((v) => v.id === 'view:isometric')!;
const withRail = (rail: Rail | undefined): Scene => {
  const view: ViewRecord = rail ? { ...front, rail } : front;
  // Alone on its sheet: there is room for a rail on each side.
  const others = scene.viewsOn(view.sheet).flatMap((v): Step[] => (v.id === view.id ? [] : [{ op: 'put', record: { ...v, off: true } }]));
  const bare = after(scene, [...others, { op: 'put', record: view }, ...scene.all('balloon').map((b): Step => ({ op: 'drop', id: b.id }))]);
  const records = identified(bare, view, bare.items, (p) => `balloon:${p}`);
  return after(
    bare,
    records.map((record) => ({ op: 'put', record })),
  );
};
const placed = (s: Scene) => s.all('balloon').map((b) => balloonPlace(b, s.one('view', b.view)!));

describe('balloons on rails', () => {
  const [x, y, w, h] = viewRect(front, scene.result(front.id)!);
  const where: Record<Exclude<Rail, 'ring'>, (p: { x: number; y: number }) => boolean> = {
    top: (p) => p.y < y,
    foot: (p) => p.y > y + h,
    rows: (p) => p.y < y || p.y > y + h,
    left: (p) => p.x < x,
    right: (p) => p.x > x + w,
    columns: (p) => p.x < x || p.x > x + w,
  };
  test.each(Object.entries(where))('%s: all on these sides and in line', (rail, inside) => {
    const places = placed(withRail(rail as Rail));
    expect(places.length).toBeGreaterThan(2);
    for (const p of places) expect(inside(p)).toBe(true);
    const lines = new Set(places.map((p) => Math.round(100 * (['left', 'right', 'columns'].includes(rail) ? p.x : p.y))));
    expect(lines.size).toBeLessThanOrEqual(rail === 'rows' || rail === 'columns' ? 2 : 1);
  });
  test('ring: all as far from one middle', () => {
    const places = placed(withRail('ring'));
    const [cx, cy] = [x + w / 2, y + h / 2];
    const radii = places.map((p) => Math.hypot(p.x - cx, p.y - cy));
    expect(Math.max(...radii) - Math.min(...radii)).toBeLessThan(0.01);
  });
  test('every rail has a name', () => {
    expect(Object.keys(RAIL_NAMES)).toHaveLength(8);
  });
  test('one that is dragged takes its rail along across it, and goes alone along it; one put there by hand goes alone', () => {
    const s = withRail('top');
    const [first, ...others] = s.all('balloon') as BalloonRecord[];
    const moved = after(s, balloonKind.drag!(first!, [7, -10], s));
    for (const b of [first!, ...others]) {
      const now = moved.one('balloon', b.id)!;
      expect(now.offset[1]).toBeCloseTo(b.offset[1] - 10, 9);
      expect(now.offset[0]).toBeCloseTo(b.offset[0] + (b.id === first!.id ? 7 : 0), 9);
      expect(now.byHand).toBeUndefined();
    }
    expect(balloonKind.drag!({ ...first!, byHand: true }, [7, -10], s)).toHaveLength(1);
    // Without rails a drag is by hand, as ever.
    const plain = withRail(undefined);
    const [b] = plain.all('balloon');
    expect(balloonKind.drag!(b!, [1, 1], plain)).toMatchObject([{ record: { byHand: true } }]);
  });
  test('arranging anew keeps to the rails of the view', () => {
    const s = withRail('right');
    const view = s.one('view', front.id)!;
    const steps = arrangeBalloons(s.document, view, s.result(view.id)!, s.items, s.components, balloonAreaOf(s, view));
    for (const p of placed(after(s, steps))) expect(p.x).toBeGreaterThan(x + w);
  });
});

describe('which items get balloons', () => {
  const bare = after(
    scene,
    scene.all('balloon').map((b): Step => ({ op: 'drop', id: b.id })),
  );
  test('on a sheet each item once, in the view where it is seen best', () => {
    const sheet = front.sheet;
    const records = identifyOnSheet(bare, sheet, (p) => `balloon:${p}`);
    expect(new Set(records.map((r) => bare.itemAt(r.component)!.part)).size).toBe(records.length);
    expect(records.length).toBeGreaterThan(4);
    for (const r of records) {
      const item = bare.itemAt(r.component)!;
      const seen = (v: ViewRecord) => item.components.reduce((sum, c) => sum + bare.result(v.id)!.visibleArea[c]!, 0) * v.scale ** 2;
      const here = seen(bare.one('view', r.view)!);
      for (const v of bare.viewsOn(sheet)) expect(seen(v)).toBeLessThanOrEqual(here + 1e-9);
    }
  });
  test('in a window only what is seen there', () => {
    const [x, y, w, h] = viewRect(front, scene.result(front.id)!);
    expect(itemsInWindow(bare, front, { x, y, width: w, height: h }).length).toBeGreaterThan(4);
    expect(itemsInWindow(bare, front, { x: x - 30, y: y - 30, width: 5, height: 5 })).toEqual([]);
    const left = itemsInWindow(bare, front, { x, y, width: w / 4, height: h });
    expect(left.length).toBeLessThan(itemsInWindow(bare, front, { x, y, width: w, height: h }).length);
  });
  test('all that is fastened together becomes stacks; no number is lost, none is said twice', () => {
    const view = scene.all('view').find((v) => v.spread && scene.at(v.id).some((r) => r.type === 'balloon'))!;
    const s = after(scene, stackedAll(scene, view));
    const said = (of: Scene) =>
      of
        .all('balloon')
        .flatMap((b) => [b.component, ...(b.stack ?? [])].map((p) => of.itemAt(p)!.number))
        .sort((a, b) => a - b);
    expect(said(s)).toEqual(said(scene));
    expect(s.all('balloon').filter((b) => b.stack?.length)).toHaveLength(1);
    expect(scene.itemAt(s.all('balloon').find((b) => b.stack)!.component)!.part).toBe('Bolt M8');
  });
});

describe('leaders', () => {
  const [b] = scene.all('balloon') as BalloonRecord[];
  const view = scene.one('view', b!.view)!;
  const { style } = scene.page(view.sheet);
  test('with a shoulder: level for so far, then to the tip', () => {
    const { segments } = drawBalloon({ ...b!, jogMm: 4 }, view, [], style).solid;
    const [level, slanted] = segments as unknown as [number[], number[]];
    expect(segments).toHaveLength(2);
    expect(level[1]).toBeCloseTo(level[3]!, 9);
    expect(Math.abs(level[2]! - level[0]!)).toBeCloseTo(4, 9);
    expect([slanted[0], slanted[1]]).toEqual([level[2], level[3]]);
  });
  test('a second one ends on another piece of the item; none is offered where there is no other', () => {
    expect(withSecond(b!, scene)).toBeUndefined();
    const two: BalloonRecord = { ...b!, second: { component: b!.component, anchor: [b!.anchor[0] + 5, b!.anchor[1]] } };
    const { segments } = drawBalloon(two, view, [], style).solid;
    expect(segments).toHaveLength(2);
    const tip = secondTip(two, view)!;
    expect(segments.some((l) => Math.hypot(l[2] - tip[0], l[3] - tip[1]) < 1e-9)).toBe(true);
    expect(balloonKind.handles!(two, scene).map((p) => p.name)).toEqual(['tip', 'second']);
  });
});

// Item references in running order around the view (common practice).
test('numbered in running order they ascend with the clock from the upper left; what is locked keeps its number', () => {
  const s = withRail(undefined);
  const around = (t: Scene) => runningOrder(t, t.one('view', front.id)!).map((i) => i.number);
  const numbered = after(s, renumbered(s.document, s.items, runningOrder(s, front)));
  const numbers = around(numbered);
  expect(numbers.length).toBeGreaterThan(5);
  expect(numbers).toEqual(numbers.map((_, i) => i + 1));
  // With the clock: the turn from each balloon to the next, seen from the middle of the view, is to the right.
  const [x, y, w, h] = viewRect(front, numbered.result(front.id));
  const places = numbers.map((n) => {
    const b = numbered.all('balloon').find((o) => o.view === front.id && numbered.itemAt(o.component)?.number === n)!;
    const place = balloonPlace(b, front);
    return [place.x - x - w / 2, place.y - y - h / 2] as const;
  });
  // Places are given y down: a turn with the clock is positive.
  const turns = places.slice(1).map(([bx, by], i) => Math.atan2(places[i]![0] * by - places[i]![1] * bx, places[i]![0] * bx + places[i]![1] * by));
  expect(turns.reduce((a, b) => a + b, 0)).toBeGreaterThan(0);
  expect(turns.every((t) => t > 0)).toBe(true);
  const [last] = runningOrder(s, front).slice(-1);
  const locked = after(s, lockedNumber(s.document, s.items, last!.part, true));
  const again = after(locked, renumbered(locked.document, locked.items, runningOrder(locked, front)));
  expect(again.items.find((i) => i.part === last!.part)!.number).toBe(last!.number);
});
