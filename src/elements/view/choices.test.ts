import { describe, expect, test } from 'vitest';
import type { ViewRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { computeView } from '../../core/views/compute-view.ts';
import { specOf } from '../../core/views/view-spec.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { overlaps, rectOf } from '../../core/base/rect.ts';
import { composeSheet } from '../compose.ts';
import { kindOf } from '../kinds.ts';
import { Scene } from '../scene.ts';
import { boxEdges } from './box-edges.ts';
import { pictorialOfCut } from './sections.ts';
import { ISO_SCALES } from '../../core/sheet/paper.ts';
import { viewRect } from './draw.ts';
import { largestScale } from './scale.ts';
import { arrangeSheet } from './arrange-sheet.ts';
import { hatchedEverywhere, withHatch } from './hatch.ts';
import { withPen } from './pens.ts';
import { cuttingLineOf, legDistances } from './section-handles.ts';
import { redirected, settingsOn } from './settings.ts';
import { groupsBySource, isShown, showing, withFaint, withShown } from './shows.ts';
import { slopeAt, turnView } from './turn.ts';
import { namedFrame } from '../../core/outline/directions.ts';

const machine = smallMachine();
const drawn = await draftAll(machine, { bare: true });
const { scene } = drawn;
const view = (id: string) => drawn.document[id] as ViewRecord;
const front = view('view:front');
const compute = (v: ViewRecord, doc = drawn.document) => computeView(machine.assembly, machine.geometries, specOf(v, doc, drawn.components));
const inkOf = (v: ViewRecord, result = drawn.results.get(v.id)!) => {
  const document = { ...drawn.document, [v.id]: v };
  const picture = composeSheet(
    new Scene({ document, assembly: machine.assembly, results: { get: (id) => (id === v.id ? result : drawn.results.get(id)) } }),
    v.sheet,
  );
  return picture.groups.find((g) => g.id === v.id)!.items;
};
const componentIn = (lines: { readonly component: Uint32Array }) => [...new Set(lines.component)].sort();

describe('components that a view shows', () => {
  test('only these, all but these, and all again', () => {
    expect(componentIn(compute(showing(front, 'only', ['Plate', 'Tower'])).lines)).toEqual([0, 3]);
    expect(componentIn(compute(showing(front, 'without', ['Plate'])).lines)).not.toContain(0);
    expect(showing(showing(front, 'only', ['Plate']), 'all')).toEqual(front);
    // A choice of what is not there is none.
    expect(compute(showing(front, 'only', ['gone'])).box).toEqual(compute(front).box);
  });
  test('are hidden and shown one by one, whatever was chosen before', () => {
    const only = showing(front, 'only', ['Plate', 'Tower']);
    const more = withShown(only, scene, ['Cap'], true);
    expect(['Plate', 'Tower', 'Cap', 'Post'].map((p) => isShown(more, p))).toEqual([true, true, true, false]);
    expect(isShown(withShown(more, scene, ['Plate'], false), 'Plate')).toBe(false);
    expect(withShown(withShown(front, scene, ['Cap'], false), scene, ['Cap'], true)).toEqual(front);
  });
  test('go by their source', () => {
    expect(groupsBySource(scene).find((g) => g.title === 'made')!.paths).toEqual(['Plate']);
    expect(groupsBySource(scene).flatMap((g) => g.paths)).toHaveLength(7);
  });
  test('that are faint hide nothing and are drawn in narrow phantom lines', () => {
    const faint = withFaint(front, ['Tower', 'Post'], true);
    const result = compute(faint);
    expect(componentIn(result.lines)).not.toContain(3);
    expect(componentIn(result.phantom)).toEqual([3, 4]);
    // What the post hid is seen now; the box is as large as before.
    expect(result.box).toEqual(compute(front).box);
    const ghost = inkOf(faint, result).find((i) => i.kind === 'stroke' && i.color !== undefined);
    expect(ghost).toMatchObject({ width: 0.25, dash: [10, 1, 0.8, 1, 0.8, 1] });
    expect(withFaint(faint, ['Tower', 'Post'], false)).toEqual(front);
  });
  test('that have a second position are drawn there too', () => {
    const document = {
      ...drawn.document,
      'spread:2': { type: 'spread', id: 'spread:2', name: 'Open', pulls: [{ components: ['Cap'], direction: [0, 0, 1], distanceMm: 40 }] },
    } as const;
    const result = compute({ ...front, second: 'spread:2' }, document);
    expect(componentIn(result.phantom)).toEqual([6]);
    expect(result.box[3]).toBeCloseTo(48 + 6 + 40, 6);
    expect(componentIn(result.lines)).toContain(6);
  });
});

describe('pens, edges and hidden lines of one view', () => {
  test('a pen is for its components alone', () => {
    const items = inkOf(withPen(front, ['Tower'], { width: 2, color: '#a3271f' }));
    const of = (c: number) => items.find((i) => i.kind === 'stroke' && i.source?.component === c);
    expect(of(3)).toMatchObject({ width: 1, color: '#a3271f' });
    expect(of(0)).toMatchObject({ width: 0.5 });
    expect(of(0)).not.toHaveProperty('color');
    expect(withPen(withPen(front, ['Tower'], { width: 2 }), ['Tower'], undefined)).toEqual(front);
  });
  test('hidden lines of some components only', () => {
    const hidden = { ...front, hidden: true };
    const result = compute(hidden);
    const dashed = (v: ViewRecord) =>
      inkOf(v, result).flatMap((i) => (i.kind === 'stroke' && i.dash && i.source?.component !== undefined ? [i.source.component] : []));
    expect(dashed(hidden).length).toBeGreaterThan(1);
    expect(dashed({ ...hidden, hiddenOf: ['Tower'] })).toEqual([3]);
  });
  test('shaded without edges has none; tangent edges may be wide', () => {
    expect(inkOf({ ...front, shaded: true, noEdges: true }).filter((i) => i.kind === 'stroke' && i.source)).toEqual([]);
    expect(inkOf({ ...front, noEdges: true }).some((i) => i.kind === 'stroke' && i.source)).toBe(true);
  });
});

describe('hatching', () => {
  const section = view('view:section');
  const caps = (v: ViewRecord) => inkOf(v).filter((i) => (i.kind === 'fill' || (i.kind === 'stroke' && i.width === 0.25)) && i.source?.component === 0);
  const slopes = (v: ViewRecord) =>
    caps(v).flatMap((i) =>
      i.kind === 'stroke'
        ? [...i.d.matchAll(/M([^ML ]+) ([^ML ]+)L([^ML ]+) ([^ML ]+)/g)].map(
            (m) => (Math.atan((Number(m[4]) - Number(m[2])) / (Number(m[3]) - Number(m[1]))) * -180) / Math.PI,
          )
        : [],
    );
  test('of one component takes another slope, is filled, or left out, here alone', () => {
    expect(Math.round(slopes(withHatch(section, ['Plate'], { angle: Math.PI / 6 }))[0]!)).toBe(30);
    expect(caps(withHatch(section, ['Plate'], { pattern: 'filled' })).some((i) => i.kind === 'fill')).toBe(true);
    expect(slopes(withHatch(section, ['Plate'], { pattern: 'none' }))).toEqual([]);
    expect(withHatch(withHatch(section, ['Plate'], { pattern: 'none' }), ['Plate'], {})).toEqual(section);
  });
  test('everywhere reaches every section and nothing else', () => {
    const steps = hatchedEverywhere(scene, ['Plate'], { spacingMm: 5 });
    expect(steps.map((s) => s.op === 'put' && s.record.id)).toEqual(['view:section']);
  });
});

describe('a cutting line', () => {
  const section = view('view:section');
  const carrier = scene.one('view', section.cut!.shownIn)!;
  test('is moved by its middle, to scale, and by a typed distance from the edge of its view', () => {
    const line = cuttingLineOf(section, scene)!;
    const [a, b] = line.points as readonly [readonly [number, number], readonly [number, number]];
    const level = Math.abs(a[1] - b[1]) < 1e-9;
    const drag = kindOf(section).drag!(section, level ? [0, -10] : [10, 0], scene, 'cut-leg-0');
    const moved = { ...section, ...(drag[0] as { record: ViewRecord }).record };
    const [leg] = legDistances(section, scene);
    const [after] = legDistances(moved, scene.with({ ...drawn.document, [section.id]: moved }));
    expect(after!.mm - leg!.mm).toBeCloseTo(10 / carrier.scale, 6);
    const typed = leg!.set(leg!.mm + 3);
    expect(legDistances(typed, scene.with({ ...drawn.document, [section.id]: typed }))[0]!.mm).toBeCloseTo(leg!.mm + 3, 6);
    expect(typed.toward).toEqual(section.toward);
  });
  test('is turned by an end: the section looks square to it', () => {
    const line = cuttingLineOf(section, scene)!;
    const [a, b] = line.points as readonly [readonly [number, number], readonly [number, number]];
    const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const across = [(-(b[1] - a[1]) / long) * 0.5 * long, ((b[0] - a[0]) / long) * 0.5 * long] as const;
    const drag = kindOf(section).drag!(section, [across[0] * carrier.scale, -across[1] * carrier.scale], scene, 'cut-corner-1');
    const { record } = drag[0] as { record: ViewRecord };
    expect(record.align).toBeNull();
    const turned = Math.acos(record.toward.reduce((s, v, i) => s + v * section.toward[i]!, 0));
    expect(turned).toBeCloseTo(Math.atan(0.5), 1);
    expect(record.cut!.letter).toBe(section.cut!.letter);
  });
  test('is drawn in full, at its ends only, or not', () => {
    const drawnLine = (line?: 'ends' | 'none') => {
      const s: ViewRecord = { ...section, cut: { ...section.cut!, ...(line ? { line } : {}) } };
      const items = composeSheet(scene.with({ ...drawn.document, [s.id]: s }), carrier.sheet).groups.find((g) => g.id === carrier.id)!.items;
      return [items.some((i) => i.kind === 'stroke' && i.dash?.[0] === 8), items.filter((i) => i.kind === 'text' && i.text === 'A').length];
    };
    expect([drawnLine(), drawnLine('ends'), drawnLine('none')]).toEqual([
      [true, 2],
      [false, 2],
      [false, 0],
    ]);
  });
});

describe('a pictorial of a cut', () => {
  test('looks aslant at the side that was cut, and cuts the same', () => {
    const section = view('view:section');
    const { record } = pictorialOfCut(scene, section, 'view:p')!;
    expect(record.cut).toEqual({ ...section.cut, shownIn: null });
    const facing = record.toward.reduce((s, v, i) => s + v * section.cut!.normal[i]!, 0);
    expect(facing).toBeGreaterThan(0.6);
    expect(facing).toBeLessThan(0.95);
    const caps = compute(record).caps;
    expect(caps.map((c) => c.component)).toEqual(drawn.results.get('view:section')!.caps.map((c) => c.component));
    caps.forEach((c, i) => expect(c.areaMm2).toBeCloseTo(drawn.results.get('view:section')!.caps[i]!.areaMm2, 6));
    expect(pictorialOfCut(scene, front, 'view:p')).toBeUndefined();
  });
});

describe('what is shown of a view before it is made', () => {
  test('the boxes of its parts, twelve edges each, inside its box', () => {
    const edges = boxEdges(machine.assembly, scene.components, front);
    expect(edges.length).toBe(7 * 12 * 4);
    const [x0, y0, x1, y1] = drawn.results.get('view:front')!.box;
    for (let i = 0; i < edges.length; i += 2) {
      expect(edges[i]!).toBeGreaterThanOrEqual(x0 - 1e-6);
      expect(edges[i]!).toBeLessThanOrEqual(x1 + 1e-6);
      expect(edges[i + 1]!).toBeGreaterThanOrEqual(y0 - 1e-6);
      expect(edges[i + 1]!).toBeLessThanOrEqual(y1 + 1e-6);
    }
  });
});

describe('settings put on others', () => {
  test('only those of the groups that are asked for', () => {
    const from: ViewRecord = { ...front, hidden: true, shaded: true, label: true, faint: ['Cap'] };
    const steps = settingsOn(scene.with({ ...drawn.document, [from.id]: from }), from, ['view:top', 'view:front'], ['lines', 'components']);
    expect(steps).toEqual([{ op: 'put', record: { ...view('view:top'), hidden: true, faint: ['Cap'] } }]);
  });
  test('the scale too, and what stays whole in a section', () => {
    const from: ViewRecord = { ...view('view:section'), cut: { ...view('view:section').cut!, keptWhole: ['Plate'] } };
    const other: ViewRecord = { ...view('view:section'), id: 'view:other', scale: 5, cut: { ...view('view:section').cut!, letter: 'B', keptWhole: [] } };
    const [step] = settingsOn(scene.with({ ...drawn.document, [other.id]: other }), from, ['view:other'], ['scale', 'cut']);
    expect(step).toMatchObject({ record: { id: 'view:other', scale: from.scale, cut: { letter: 'B', keptWhole: ['Plate'] } } });
  });
});

describe('another direction for one view', () => {
  test('keeps its place and scale; a cut and an outline meant the old one', () => {
    const before = { ...front, within: { kind: 'circle', at: [0, 0], radius: 9 } as const };
    const now = redirected(scene, before, namedFrame('left'));
    expect(now).toMatchObject({ ...namedFrame('left'), scale: front.scale, cut: null, align: null });
    expect(now).not.toHaveProperty('within');
    // The middle of what it shows stays.
    const box = compute(now).box;
    expect(scene.map(now).toPaper([(box[0] + box[2]) / 2, (box[1] + box[3]) / 2])[0]).toBeCloseTo(now.at[0], 6);
  });
  test('level by an edge: the edge lies level then, and balloons point where they did', () => {
    const doc = {
      ...drawn.document,
      b: { type: 'balloon', id: 'b', view: 'view:front', component: 'Plate', anchor: [60, 8], offset: [30, -30], end: 'arrow' },
    } as const;
    const r = applySteps(doc, turnView(scene.with(doc), front, Math.PI / 6));
    if (!r.ok) throw new Error(r.reason);
    const turned = r.document['view:front'] as ViewRecord;
    const tilted = new Scene({
      document: r.document,
      assembly: machine.assembly,
      results: { get: (id) => (id === 'view:front' ? compute(turned) : drawn.results.get(id)) },
    });
    const anchor = (r.document['b'] as { anchor: readonly [number, number] }).anchor;
    expect(anchor[0]).toBeCloseTo(60 * Math.cos(Math.PI / 6) - 8 * Math.sin(Math.PI / 6), 9);
    // The upper edge of the plate slopes by 30° now.
    const onEdge = tilted.map(turned).toPaper([50 * Math.cos(Math.PI / 6) - 8 * Math.sin(Math.PI / 6), 50 * Math.sin(Math.PI / 6) + 8 * Math.cos(Math.PI / 6)]);
    expect(slopeAt(tilted, turned, onEdge, 1)).toBeCloseTo(Math.PI / 6, 6);
    expect(slopeAt(tilted, turned, [onEdge[0] + 40, onEdge[1] - 40], 1)).toBeUndefined();
  });
});

describe('the largest scale that fits', () => {
  test('is a standard one at which the view covers nothing, and the next larger one would', () => {
    // Only the upper left quarter: there is more room around it.
    const part: ViewRecord = { ...view('view:isometric'), within: { kind: 'circle', at: [0, 20], radius: 15 } };
    const now = scene.with({ ...drawn.document, [part.id]: part });
    const s = largestScale(now, part)!;
    expect(s).toBeGreaterThan(part.scale);
    expect(ISO_SCALES).toContain(s);
    const clear = (k: number) => {
      const [x, y, width, height] = viewRect({ ...part, scale: k }, now.result(part.id));
      const [ox, oy, ow, oh] = viewRect(part, now.result(part.id));
      const rect = { x: ox + ow / 2 - width / 2, y: oy + oh / 2 - height / 2, width, height };
      expect([x, y].every(Number.isFinite)).toBe(true);
      const frame = now.page('sheet:1').geometry.frame;
      const inside = rect.x > frame.x && rect.y > frame.y && rect.x + width < frame.x + frame.width && rect.y + height < frame.y + frame.height;
      return inside && composeSheet(now, 'sheet:1').groups.every((g) => g.id === part.id || g.role === 'frame' || !overlaps(rect, rectOf(g.box), 2));
    };
    expect(clear(s)).toBe(true);
    expect(clear(ISO_SCALES[ISO_SCALES.indexOf(s) - 1]!)).toBe(false);
  });
});

describe('a sheet arranged', () => {
  const moved = drawn.document;
  const crowded = {
    ...moved,
    'view:isometric': { ...view('view:isometric'), at: view('view:front').at },
    'view:top': { ...view('view:top'), at: [view('view:top').at[0], view('view:top').at[1] + 60] as const },
  };
  const arranged = (fixed?: ReadonlySet<string>) => {
    const before = scene.with(crowded);
    const r = applySteps(crowded, arrangeSheet(before, 'sheet:1', fixed)!);
    if (!r.ok) throw new Error(r.reason);
    return scene.with(r.document);
  };
  test('has its views 15 mm apart or more, neighbours in line, clear of the title block', () => {
    const now = arranged();
    const groups = composeSheet(now, 'sheet:1').groups.filter((g) => g.role !== 'frame');
    const rects = groups.map((g) => (g.role === 'title' ? rectOf(g.box) : g.ink));
    rects.forEach((a, i) => {
      for (const b of rects.slice(i + 1)) expect(overlaps(a, b, 15 - 1e-6)).toBe(false);
    });
    const [f, t, r] = ['view:front', 'view:top', 'view:right'].map((id) => now.one('view', id)!);
    expect(now.map(t!).x(0)).toBeCloseTo(now.map(f!).x(0), 6);
    expect(now.map(r!).y(0)).toBeCloseTo(now.map(f!).y(0), 6);
    // First angle still: the view from above below, the view from the right at the left (ISO 5456-2).
    expect(t!.at[1]).toBeGreaterThan(f!.at[1]);
    expect(r!.at[0]).toBeLessThan(f!.at[0]);
  });
  test('keeps the neighbours of a hidden parent together: each is moved once', () => {
    const hidden = { ...drawn.document, 'view:front': { ...front, off: true as const } };
    const steps = arrangeSheet(scene.with(hidden), 'sheet:1')!;
    const ids = steps.map((s) => (s.op === 'put' ? s.record.id : ''));
    expect(ids).toEqual([...new Set(ids)]);
    expect(ids).toContain('view:top');
    expect(ids).not.toContain('view:front');
    const shift = (id: string) => {
      const s = steps.find((one) => one.op === 'put' && one.record.id === id);
      const now = (s as { record: ViewRecord }).record.at;
      return now.map((v, k) => v - view(id).at[k]!);
    };
    shift('view:top').forEach((v, k) => expect(v).toBeCloseTo(shift('view:right')[k]!, 9));
  });
  test('leaves what is locked', () => {
    const now = arranged(new Set(['view:isometric']));
    expect(now.one('view', 'view:isometric')!.at).toEqual(crowded['view:isometric'].at);
  });
});
