import { describe, expect, test } from 'vitest';
import { rescaleModel } from '../assembly/rescale.ts';
import { sizeOf } from '../assembly/units.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { computeView } from '../views/compute-view.ts';
import { specOf } from '../views/view-spec.ts';
import { componentsOf } from '../assembly/components.ts';
import { balloonPlace } from '../../elements/balloon/draw.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { recordsOf, sheetsOf, type BalloonRecord, type ViewRecord } from './records.ts';
import { rescaleDrawing } from './rescale.ts';
import { applySteps } from './steps.ts';

const machine = smallMachine();
const drawn = draftAll(machine);
let n = 0;
const rescaled = (k: number) => rescaleModel(machine.assembly, machine.geometries, k, () => `scaled ${n++}`);

describe('a drawing whose file means another unit', () => {
  test('the model is as many times as large in every measure', () => {
    const { assembly, geometries } = rescaled(1000);
    const close = (a: readonly number[], b: readonly number[]) => a.forEach((v, i) => expect(v / b[i]!).toBeCloseTo(1, 9));
    close(
      sizeOf(assembly),
      sizeOf(machine.assembly).map((v) => v * 1000),
    );
    expect(assembly.unit).toBe('m');
    const [was, is] = [machine.assembly.parts[5]!, assembly.parts[5]!];
    close([is.volumeMm3, is.areaMm2], [was.volumeMm3 * 1e9, was.areaMm2 * 1e6]);
    const [g, h] = [machine.geometries.get(was.geometryKey)!, geometries.get(is.geometryKey)!];
    // The ring's outer cylinder and its bore: a point on the axis, a direction that stays, a radius.
    expect([...h.faceParams.subarray(0, 7)]).toEqual([...g.faceParams.subarray(0, 7)].map((v, i) => (i < 3 || i === 6 ? v * 1000 : v)));
    expect(h.edgeParams[6]).toBe(g.edgeParams[6]! * 1000);
    expect(h.cornerNormals).toEqual(g.cornerNormals);
  });

  test('by a power of ten every line stays where it was on paper, and undo brings everything back', async () => {
    const { document, results, sheets } = await drawn;
    const steps = rescaleDrawing(document, 10);
    const done = applySteps(document, steps);
    if (!done.ok) throw new Error(done.reason);
    const { assembly, geometries } = rescaled(10);
    const components = componentsOf(assembly);
    for (const v of recordsOf(done.document, 'view')) {
      const was = document[v.id] as ViewRecord;
      expect([v.scale * 10, v.at]).toEqual([expect.closeTo(was.scale, 9), was.at]);
      const r = computeView(assembly, geometries, specOf(v, done.document, components));
      const [old, fresh] = [results.get(v.id)!.box, r.box];
      fresh.forEach((x, i) => expect(x * v.scale).toBeCloseTo(old[i]! * was.scale, 6));
      // On the sheet its box lies where it lay.
      viewRect(v, r).forEach((x, i) => expect(x).toBeCloseTo(viewRect(was, results.get(v.id))[i]!, 6));
    }
    // Leaders end where they ended on paper.
    for (const b of recordsOf(done.document, 'balloon')) {
      const [is, old] = [b, document[b.id] as BalloonRecord].map((x, i) => balloonPlace(x, [done.document, document][i]![x.view] as ViewRecord));
      for (const key of ['x', 'y', 'tipX', 'tipY'] as const) expect(is![key]).toBeCloseTo(old![key], 6);
    }
    const [, section] = sheetsOf(document);
    const again = composeSheet(new Scene({ document: done.document, assembly, results: new Map() }), section!.id);
    const balloon = (s: typeof again) => s.groups.filter((g) => g.role === 'balloon').map((g) => g.box);
    expect(balloon(again)).toEqual(balloon(sheets.get(section!.id)!));
    const back = applySteps(done.document, done.inverse);
    expect(back.ok && back.document).toEqual(document);
  });

  test('by inches views take a standard scale, all of a family the same', async () => {
    const { document } = await drawn;
    const done = applySteps(document, rescaleDrawing(document, 25.4));
    if (!done.ok) throw new Error(done.reason);
    for (const v of recordsOf(done.document, 'view')) {
      const was = (document[v.id] as ViewRecord).scale / 25.4;
      // Not larger on paper than before, and not smaller than the next standard scale: 1, 2 and 5 are at most 2.5 apart.
      expect(v.scale).toBeLessThanOrEqual(was * 1.001);
      expect(v.scale).toBeGreaterThan(was / 2.5001);
      expect((1 / v.scale).toPrecision(6)).toMatch(/^[125]0*(\.0*)?$/);
    }
    const scale = (id: string) => (done.document[id] as ViewRecord).scale;
    expect([scale('view:top'), scale('view:right')]).toEqual([scale('view:front'), scale('view:front')]);
  });

  test('cuts of every shape, depths, turns and leader ends go along', async () => {
    const { document } = await drawn;
    const front = document['view:front'] as ViewRecord;
    const view = (id: string, cut: Partial<NonNullable<ViewRecord['cut']>>): ViewRecord => ({
      ...front,
      id,
      parent: null,
      align: null,
      hidden: true,
      hiddenWithinMm: 7,
      cut: { normal: [0, -1, 0], d: 3, letter: 'B', keptWhole: [], shownIn: null, ...cut },
    });
    const records = [
      view('view:a', { behindMm: 4, shape: { kind: 'half', across: [1, 0, 0], from: 2 } }),
      view('view:b', {
        shape: {
          kind: 'stepped',
          across: [1, 0, 0],
          steps: [
            { from: 1, d: 2 },
            { from: 5, d: 6 },
          ],
        },
      }),
      view('view:c', { shape: { kind: 'aligned', across: [1, 0, 0], from: 8, turn: 0.5 } }),
      view('view:d', { shape: { kind: 'local', outline: [0, 0, 9, 0, 0, 9] } }),
      {
        type: 'spread',
        id: 'spread:9',
        name: 'S',
        pulls: [{ components: ['Cap'], direction: [0, 0, 1], distanceMm: 11, turn: { axis: [0, 0, 1], through: [1, 2, 3], angle: 0.25 } }],
      },
    ] as const;
    const start = applySteps(
      document,
      records.map((record) => ({ op: 'put', record }) as const),
    );
    if (!start.ok) throw new Error(start.reason);
    const done = applySteps(start.document, rescaleDrawing(start.document, 10));
    if (!done.ok) throw new Error(done.reason);
    const cut = (id: string) => (done.document[id] as ViewRecord).cut;
    expect(cut('view:a')).toMatchObject({ d: 30, behindMm: 40, shape: { from: 20 } });
    expect(cut('view:b')).toMatchObject({
      shape: {
        steps: [
          { from: 10, d: 20 },
          { from: 50, d: 60 },
        ],
      },
    });
    expect(cut('view:c')).toMatchObject({ shape: { from: 80, turn: 0.5 } });
    expect(cut('view:d')).toMatchObject({ shape: { outline: [0, 0, 90, 0, 0, 90] } });
    expect(done.document['view:a']).toMatchObject({ hiddenWithinMm: 70 });
    expect(done.document['spread:9']).toMatchObject({ pulls: [{ distanceMm: 110, turn: { through: [10, 20, 30], angle: 0.25 } }] });
  });
});
