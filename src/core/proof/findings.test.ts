import { describe, expect, test } from 'vitest';
import { recordsOf, type BalloonRecord, type DrawingDocument, type SheetRecord, type ViewRecord } from '../document/records.ts';
import { anchorsOf } from '../../elements/balloon/place/anchors.ts';
import { Scene } from '../../elements/scene.ts';
import { rectOf } from '../base/rect.ts';
import { namedFrame } from '../outline/directions.ts';
import { meet } from '../picture/solid.ts';
import { paperByName, styleFor } from '../sheet/paper.ts';
import type { ViewResult } from '../views/compute-view.ts';
import { viewFindings } from '../../elements/view/findings.ts';
import { drawView, viewRect } from '../../elements/view/draw.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { findingsOf } from './findings.ts';
import { standingFindings, type Standing } from './standing.ts';

const drawn = await draftAll(smallMachine());

/** The findings after a change of the document. */
function after(change: Record<string, unknown>, without: readonly string[] = []) {
  const document = Object.fromEntries(Object.entries({ ...drawn.document, ...change }).filter(([id]) => !without.includes(id))) as DrawingDocument;
  return findingsOf(new Scene({ ...drawn, document })).filter((f) => !['LIST_GAP', 'TITLE_GAP', 'MASS_UNKNOWN'].includes(f.code));
}
const exploded = drawn.document['view:exploded'] as ViewRecord;

describe('a checker would mark', () => {
  test('an item without a balloon', () => {
    expect(after({}, ['balloon:Ring'])).toMatchObject([{ code: 'NOT_IDENTIFIED', about: ['Ring'], severity: 'must' }]);
  });

  test('a view over another', () => {
    const front = drawn.document['view:front'] as ViewRecord;
    expect(after({ 'view:right': { ...(drawn.document['view:right'] as ViewRecord), at: front.at } }).map((f) => f.code)).toContain('OVERLAP');
  });

  test('a view over the frame', () => {
    expect(after({ 'view:exploded': { ...exploded, at: [5, exploded.at[1]] } }).map((f) => f.code)).toContain('OUTSIDE_FRAME');
  });

  test('leaders that cross, and one that is level', () => {
    const [a, b] = recordsOf(drawn.document, 'balloon').filter((x) => x.view === 'view:exploded') as [BalloonRecord, BalloonRecord];
    // Both leaders through one point beside their tips.
    const tip = (x: BalloonRecord) => [(x.anchor[0] - exploded.pivot[0]) * exploded.scale, -(x.anchor[1] - exploded.pivot[1]) * exploded.scale] as const;
    const [p, q] = [tip(a), tip(b)];
    const meet = [(p[0] + q[0]) / 2 - (q[1] - p[1]), (p[1] + q[1]) / 2 + (q[0] - p[0])] as const;
    const through = (x: BalloonRecord, t: readonly [number, number]) => ({ ...x, offset: [2 * meet[0] - t[0], 2 * meet[1] - t[1]] });
    expect(after({ [a.id]: through(a, p), [b.id]: through(b, q) }).map((f) => f.code)).toContain('LEADERS_CROSS');
    const tipY = exploded.at[1] - (a.anchor[1] - exploded.pivot[1]) * exploded.scale;
    expect(after({ [a.id]: { ...a, offset: [a.offset[0] - 20, tipY - exploded.at[1]] } }).map((f) => f.code)).toContain('LEADER_SLANT');
  });

  test('an item that no view shows', () => {
    const results = new Map([...drawn.results].map(([id, r]) => [id, { ...r, visibleArea: r.visibleArea.map((v, i) => (i === 5 ? 0 : v)) }]));
    const codes = findingsOf(new Scene({ ...drawn, results }))
      .filter((f) => f.about.includes('Ring'))
      .map((f) => f.code);
    expect(codes).toContain('SEEN_NOWHERE');
  });

  test('missing data, by its name', () => {
    expect(drawn.findings.find((f) => f.about.includes('Ring'))?.text).toBe('6 Ring: source, material, drawing number missing.');
    expect(drawn.findings.some((f) => f.about.includes('Plate'))).toBe(false);
  });
});

describe('findings at any scale', () => {
  const balloon = recordsOf(drawn.document, 'balloon').find((b) => b.view === 'view:exploded')!;
  /** The balloon as far from its leader's end on paper as asked for. */
  const led = (scale: number, dx: number, dy: number) => {
    const view = { ...exploded, scale };
    const tip = [(balloon.anchor[0] - view.pivot[0]) * scale, -(balloon.anchor[1] - view.pivot[1]) * scale] as const;
    return { 'view:exploded': view, [balloon.id]: { ...balloon, offset: [tip[0] + dx, tip[1] + dy] } };
  };
  const slants = (change: Record<string, unknown>) =>
    after(change)
      .filter((f) => f.code === 'LEADER_SLANT' && f.about.includes(balloon.id))
      .map((f) => f.text);

  // Slants are counted on paper: 5° and 85° (common practice).
  test.each([
    [0.1, 1, 30, 'A leader is upright: it reads as an edge.'],
    [5, 1, -30, 'A leader is upright: it reads as an edge.'],
    [0.1, -40, 2, 'A leader is level: it reads as an edge.'],
    [5, 40, -2, 'A leader is level: it reads as an edge.'],
    [0.1, 10, 30, undefined],
    [5, -30, 10, undefined],
  ])('at scale %d, %d across and %d down: %s', (scale, dx, dy, text) => {
    expect(slants(led(scale, dx, dy))).toEqual(text ? [text] : []);
  });

  test.each([
    [0.1, 90, true],
    [0.1, 110, false],
    [5, 0.03, true],
    [5, 0.05, false],
  ])('at scale %d, %d mm² of the model seen: missed %s (1 mm² on paper)', (scale, areaMm2, missed) => {
    const results = new Map([...drawn.results].map(([id, r]) => [id, { ...r, visibleArea: r.visibleArea.map((v, i) => (i === 5 ? areaMm2 : v)) }]));
    const document = Object.fromEntries(Object.entries(drawn.document).map(([id, r]) => [id, r.type === 'view' ? { ...r, scale } : r])) as DrawingDocument;
    const found = findingsOf(new Scene({ ...drawn, document, results })).filter((f) => f.code === 'SEEN_NOWHERE');
    expect(found.some((f) => f.about.includes('Ring'))).toBe(missed);
    if (missed) expect(found.find((f) => f.about.includes('Ring'))!.text).toContain(`at most ${(areaMm2 * scale * scale).toFixed(1)} mm² on paper`);
  });
  test('it is enough that one view shows it', () => {
    const results = new Map(
      [...drawn.results].map(([id, r]) => [id, { ...r, visibleArea: r.visibleArea.map((v, i) => (i === 5 && id !== 'view:top' ? 0 : v)) }]),
    );
    expect(findingsOf(new Scene({ ...drawn, results })).filter((f) => f.code === 'SEEN_NOWHERE')).toEqual([]);
  });

  test('a list over an empty corner of a view is none of a checker’s business, over a filled one it is', () => {
    const list = drawn.sheets.get('sheet:3')!.groups.find((g) => g.role === 'list')!;
    const result = drawn.results.get('view:exploded')!;
    const { window, component } = result.map;
    // Where the view shows nothing near its lower right corner, and where it shows something, in view space.
    const corner = (filled: boolean): [number, number] => {
      for (let j = window.height - 1; j >= 0; j--)
        for (let i = window.width - 1; i >= 0; i--)
          if (component[j * window.width + i]! >= 0 === filled) return [window.minX + i * window.pixelMm, window.maxY - j * window.pixelMm];
      throw new Error('nothing');
    };
    const overlapsWith = (x: number, y: number) => {
      // The view is put so that this point of it lies just inside the list's upper left corner.
      const at = [list.box[0] + 0.05 - (x - exploded.pivot[0]) * exploded.scale, list.box[1] + 0.05 + (y - exploded.pivot[1]) * exploded.scale];
      return after({ 'view:exploded': { ...exploded, at } }).filter(
        (f) => f.code === 'OVERLAP' && f.about.includes('view:exploded') && f.about.includes(list.id),
      );
    };
    expect(overlapsWith(result.box[2] - 0.5, result.box[1] + 0.5)).toEqual([]);
    expect(overlapsWith(...corner(true))).toHaveLength(1);
  });

  test.each([
    [0.5, 1.5, 0],
    [0.5, 2.5, 1],
    [5, 0.15, 0],
    [5, 0.25, 1],
  ])('at scale %d a leader %d mm of the model off its part: %d findings (1 mm on paper)', (scale, mm, count) => {
    // Beyond the left end of everything, level with where the leader ended.
    const result = drawn.results.get('view:exploded')!;
    const [first] = anchorsOf(result, new Set([drawn.components.find((c) => c.path === balloon.component)!.index]), 1);
    const anchor = [first!.x + first!.outX * mm, first!.y + first!.outY * mm];
    const found = after({ 'view:exploded': { ...exploded, scale }, [balloon.id]: { ...balloon, anchor } }).filter(
      (f) => f.code === 'OFF_TARGET' && f.about.includes(balloon.id),
    );
    expect(found).toHaveLength(count);
  });
  test('a leader whose part is gone, and one whose part shows no edge', () => {
    expect(after({}).filter((f) => f.code === 'OFF_TARGET')).toEqual([]);
    expect(after({ [balloon.id]: { ...balloon, component: 'gone' } }).filter((f) => f.code === 'OFF_TARGET')).toMatchObject([
      { text: 'A balloon points at a part that is gone. Re-aim it, or remove it.' },
    ]);
  });
});

describe('what stands over what', () => {
  const codes = (change: Record<string, unknown>, of: string) => after(change).filter((f) => f.code === 'OVERLAP' && f.about.includes(of));
  const section = drawn.document['view:section'] as ViewRecord;
  const [, , width, height] = viewRect(section, drawn.results.get('view:section'));
  /** Frame of A3 lying (ISO 5457): x 20…410, y 10…287. */
  const at = (left: number, top: number) => {
    const [x, y] = viewRect(section, drawn.results.get('view:section'));
    return { 'view:section': { ...section, at: [section.at[0] + left - x, section.at[1] + top - y] } };
  };
  test.each([
    ['left', 20, 50, true],
    ['left', 19.95, 50, false],
    ['right', 410 - width, 50, true],
    ['right', 410.05 - width, 50, false],
    ['top', 100, 10, true],
    ['top', 100, 9.95, false],
    // Its label stands 9 mm below it.
    ['foot', 40, 278 - height, true],
    ['foot', 40, 278.05 - height, false],
  ])('a view may touch the frame on the %s, not cross it', (_, left, top, fine) => {
    expect(after(at(left, top)).filter((f) => f.code === 'OUTSIDE_FRAME')).toHaveLength(fine ? 0 : 1);
  });
  test('a balloon over a list, and over another balloon', () => {
    const [a, b] = recordsOf(drawn.document, 'balloon').filter((x) => x.view === 'view:exploded') as [BalloonRecord, BalloonRecord];
    const list = drawn.sheets.get('sheet:3')!.groups.find((g) => g.role === 'list')!;
    const over = { ...a, offset: [list.box[0] + 20 - exploded.at[0], list.box[1] + 10 - exploded.at[1]] };
    expect(codes({ [a.id]: over }, a.id).map((f) => f.about)).toEqual([[a.id, list.id]]);
    expect(codes({ [a.id]: { ...a, offset: b.offset } }, a.id).map((f) => [...f.about].sort())).toEqual([[a.id, b.id].sort()]);
    // A balloon in its own view's box is where balloons may be.
    expect(codes({ [a.id]: { ...a, offset: [0, 0] } }, 'view:exploded')).toEqual([]);
  });
  test('list and title block belong together, two views do not', () => {
    expect(codes({}, 'title')).toEqual([]);
    const front = drawn.document['view:front'] as ViewRecord;
    expect(codes({ 'view:isometric': { ...(drawn.document['view:isometric'] as ViewRecord), at: front.at } }, 'view:front')).toHaveLength(1);
  });
  test('open surfaces are named by their items, cut or not', () => {
    const results = new Map([...drawn.results].map(([id, r]) => [id, id === 'view:section' ? { ...r, uncut: [3, 5], unhatched: [0] } : r]));
    expect(
      findingsOf(new Scene({ ...drawn, results }))
        .filter((f) => f.code === 'NOT_CUT' || f.code === 'NOT_HATCHED')
        .map((f) => [f.code, f.sheet, f.about, f.text]),
    ).toEqual([
      [
        'NOT_CUT',
        'sheet:1',
        ['view:section'],
        'Section A–A shows 4 Tower, 6 Ring whole: the surface is open, so there is no inside to cut. Keep it whole on purpose, or mend the model.',
      ],
      [
        'NOT_HATCHED',
        'sheet:1',
        ['view:section'],
        'Section A–A cuts 1 Plate without hatching: the surface is open there. Keep it whole on purpose, or mend the model.',
      ],
    ]);
  });
  test('every gap is told once, by the names of its columns', () => {
    expect(
      findingsOf(drawn.scene)
        .filter((f) => f.code === 'LIST_GAP')
        .map((f) => [f.about, f.text]),
    ).toEqual(drawn.items.filter((i) => i.part !== 'Plate').map((i) => [[i.part], `${i.number} ${i.part}: source, material, drawing number missing.`]));
  });
  test('leaders exactly at 5° and 85° are let pass', () => {
    const b = recordsOf(drawn.document, 'balloon').find((x) => x.view === 'view:exploded')!;
    const tip = [(b.anchor[0] - exploded.pivot[0]) * exploded.scale, -(b.anchor[1] - exploded.pivot[1]) * exploded.scale] as const;
    const slanted = (degrees: number) => {
      const a = (degrees * Math.PI) / 180;
      return after({ [b.id]: { ...b, offset: [tip[0] + 30 * Math.cos(a), tip[1] - 30 * Math.sin(a)] } }).filter(
        (f) => f.code === 'LEADER_SLANT' && f.about.includes(b.id),
      ).length;
    };
    expect([4.9, 5.1, 84.9, 85.1, 94.9, 95.1, 174.9, 175.1].map(slanted)).toEqual([1, 0, 0, 1, 1, 0, 0, 1]);
  });
});

describe('pictures on a sheet put there by hand', () => {
  const sheet = drawn.document['sheet:1'] as SheetRecord;
  const front = drawn.document['view:front'] as ViewRecord;
  const balloon = recordsOf(drawn.document, 'balloon')[0]!;
  const list = recordsOf(drawn.document, 'list')[0]!;
  /** One of each kind; the balloon belongs to a view that is not here. */
  const RECORDS = { sheet, view: front, balloon: { ...balloon, view: 'view:elsewhere' }, list };
  type Role = keyof typeof RECORDS;
  const frame = { x: 20, y: 10, width: 390, height: 277 };
  const standing = (id: string, role: Role, box: readonly [number, number, number, number], more: Partial<Standing> = {}): Standing => ({
    id,
    label: id,
    record: { ...RECORDS[role] },
    ink: rectOf(box),
    solid: role === 'view' ? { rects: [], segments: [], loose: [rectOf(box)] } : { rects: [rectOf(box)], segments: [] },
    ...more,
  });
  const found = (...drawn: readonly Standing[]) => standingFindings(drawn, 'sheet:1', frame).map((f) => [f.code, f.sheet, ...f.about]);

  test('what may lie over each other and what may not, whichever was drawn first', () => {
    const box = [100, 100, 30, 30] as const;
    const over = (a: Role, b: Role) => found(standing('a', a, box), standing('b', b, box)).length;
    expect([over('sheet', 'list'), over('list', 'list'), over('list', 'sheet')]).toEqual([0, 0, 0]);
    expect([over('sheet', 'view'), over('list', 'balloon'), over('balloon', 'balloon'), over('sheet', 'balloon'), over('view', 'sheet')]).toEqual([
      1, 1, 1, 1, 1,
    ]);
    expect([over('view', 'balloon'), over('balloon', 'view')]).toEqual([1, 1]);
    expect(found(standing('a', 'list', box), standing('b', 'balloon', box))).toEqual([['OVERLAP', 'sheet:1', 'a', 'b']]);
    // Edge to edge is beside each other.
    expect(found(standing('a', 'list', box), standing('b', 'balloon', [130, 100, 5, 5]))).toEqual([]);
    expect(found(standing('a', 'list', box), standing('b', 'balloon', [129.9, 100, 5, 5]))).toHaveLength(1);
  });
  test('a balloon may stand over its own view', () => {
    const box = [100, 100, 30, 30] as const;
    const own = standing('b', 'balloon', box, { record: { ...balloon, view: front.id } });
    expect(found(standing('a', 'view', box), own)).toEqual([]);
    expect(found(own, standing('a', 'view', box))).toEqual([]);
  });
  test('a leader through a list is marked, one beside it is not', () => {
    const led = (x: number) => standing('b', 'balloon', [200, 95, 10, 10], { solid: { rects: [], segments: [[205, 100, x, 110]] } });
    expect(found(standing('a', 'list', [100, 100, 30, 30]), led(120))).toEqual([['OVERLAP', 'sheet:1', 'a', 'b']]);
    expect(found(standing('a', 'list', [100, 100, 30, 30]), led(140))).toEqual([]);
  });
  test('border and title block are where they are; anything else stays inside with all that prints of it', () => {
    const outside = [15, 100, 30, 30] as const;
    expect(found(standing('frame', 'sheet', outside))).toEqual([]);
    expect(found(standing('b', 'balloon', outside))).toEqual([['OUTSIDE_FRAME', 'sheet:1', 'b']]);
    expect(found(standing('v', 'view', [100, 100, 30, 30], { ink: rectOf([100, 100, 30, 190]) }))).toEqual([['OUTSIDE_FRAME', 'sheet:1', 'v']]);
  });
});

describe('a view and what lies over it', () => {
  /** Four by four pixels of 10 mm of the model, 2 mm on paper at 1:5; one of them shows something. */
  const view: ViewRecord = { ...(drawn.document['view:front'] as ViewRecord), scale: 0.2, at: [100, 100], pivot: [0, 0] };
  const window = { minX: -20, maxY: 20, pixelMm: 10, width: 4, height: 4 };
  const filled = (i: number, j: number): ViewResult => ({
    ...drawn.results.get(view.id)!,
    box: [-20, -20, 20, 20],
    map: { window, component: Int16Array.from({ length: 16 }, (_, k) => (k === j * 4 + i ? 0 : -1)) },
  });
  const over = (result: ViewResult | undefined, x: number, y: number, size: number) =>
    meet(
      drawView(view, result, styleFor(paperByName('A3')!), { cuts: [], scaleInLabel: false, families: [] }).solid,
      { rects: [{ x, y, width: size, height: size }], segments: [] },
      0.01,
    );
  test.each([
    [0, 0],
    [3, 3],
    [3, 0],
    [1, 2],
  ])('a list over pixel %d, %d of a view is over the view, one beside it is not', (i, j) => {
    // The pixel's corner on paper: the window begins at 96, 96.
    const [x, y] = [96 + 2 * i, 96 + 2 * j];
    expect(over(filled(i, j), x + 0.5, y + 0.5, 1)).toBe(true);
    expect(over(filled(i, j), x + 1.9, y + 1.9, 20)).toBe(true);
    // A pixel's breadth away is certainly beside it.
    for (const [dx, dy] of [
      [4.1, 0],
      [0, 4.1],
      [-4.1, 0],
      [0, -4.1],
    ] as const)
      expect([dx, dy, over(filled(i, j), x + dx + 0.5, y + dy + 0.5, 1)]).toEqual([dx, dy, false]);
  });
  test('without a result a view counts as full', () => {
    expect(over(undefined, 97, 97, 1)).toBe(true);
  });
  test('its label, and the cutting plane that it carries, are not to be written over', () => {
    const section: ViewRecord = { ...view, id: 'view:cut', cut: { normal: [0, -1, 0], d: 0, letter: 'A', keptWhole: [], shownIn: view.id } };
    const top: ViewRecord = { ...view, ...namedFrame('top'), label: true };
    const { solid, ink } = drawView(top, filled(0, 0), styleFor(paperByName('A3')!), { cuts: [section], scaleInLabel: false, families: [] });
    const meets = (x: number, y: number) => meet(solid, { rects: [{ x, y, width: 1, height: 1 }], segments: [] }, 0.01);
    // The plane y = 0 runs level through the middle of the box 96…104 and 7 mm past it; the arrows look from the front.
    expect([meets(91, 99.5), meets(91, 94), meets(86, 99.5)]).toEqual([true, false, false]);
    // The label stands 9 mm below the box.
    expect([meets(99.5, 111), meets(99.5, 107)]).toEqual([true, false]);
    expect(ink.x).toBeLessThan(90);
    // The arrows stand 9 mm off the plane, the letter beyond them.
    expect(ink.y + ink.height).toBeGreaterThan(113);
  });
});

describe('open pieces, and leaders that cross', () => {
  test('one open piece of several is enough to name its item; no result, no finding', () => {
    const items = [{ ...drawn.items[3]!, components: [3, 5] }];
    const open = (results: ReadonlyMap<string, ViewResult>) =>
      viewFindings([drawn.document['view:section'] as ViewRecord], 'sheet:2', Object.assign(new Scene({ ...drawn, results }), { items }))
        .filter((f) => f.code === 'NOT_CUT')
        .map((f) => f.text.split(':')[0]);
    expect(open(new Map([['view:section', { ...drawn.results.get('view:section')!, uncut: [5] }]]))).toEqual(['Section A–A shows 4 Tower whole']);
    expect(open(new Map())).toEqual([]);
  });
  test('two leaders that cross are told once, by both their names', () => {
    const [a, b] = recordsOf(drawn.document, 'balloon').filter((x) => x.view === 'view:exploded') as [BalloonRecord, BalloonRecord];
    // Tips 20 mm apart on paper, circles 20 mm below each other's tip.
    const [p, q]: [number, number][] = [
      [exploded.pivot[0], exploded.pivot[1]],
      [exploded.pivot[0] + 20 / exploded.scale, exploded.pivot[1]],
    ];
    const crossing = (dx: number) => {
      const document = {
        ...drawn.document,
        [a.id]: { ...a, anchor: p, offset: [20 + dx, 20] },
        [b.id]: { ...b, anchor: q, offset: [-dx, 20] },
      } as DrawingDocument;
      const only = Object.fromEntries(Object.entries(document).filter(([id, r]) => r.type !== 'balloon' || id === a.id || id === b.id));
      return findingsOf(new Scene({ ...drawn, document: only }))
        .filter((f) => f.code === 'LEADERS_CROSS')
        .map((f) => [f.sheet, [...f.about].sort()]);
    };
    expect(crossing(0)).toEqual([[exploded.sheet, [a.id, b.id].sort()]]);
    expect(crossing(-15)).toEqual([]);
  });
});
