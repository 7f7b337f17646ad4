import { expect, test } from 'vitest';
import { Scene } from '../../elements/scene.ts';
import type { SpreadRecord } from '../document/records.ts';
import { plainPull, pullsOf } from '../explode/records.ts';
import { checkSpread } from '../explode/way-out.ts';
import { sceneOf } from '../outline/scene-of.ts';
import { draftAll, smallMachine } from '../testing/drafting.ts';
import { findingsOf } from './findings.ts';
import { Prover } from './prover.ts';

const machine = smallMachine();
const drawn = await draftAll(machine);
const bodies = sceneOf(machine.assembly, machine.geometries);
const spread = drawn.scene.all('spread')[0]!;

const hitsOf = (s: SpreadRecord) => checkSpread(machine.assembly, bodies, pullsOf(s, drawn.components).map(plainPull)).hits;
const passing = (s: SpreadRecord) =>
  findingsOf(new Scene({ ...drawn, document: { ...drawn.document, [s.id]: s }, hits: new Map([[s.id, hitsOf(s)]]) })).filter(
    (f) => f.code === 'PASSES_THROUGH',
  );

/** The ring is drawn straight through the plate. */
const ring = drawn.components.find((c) => c.name === 'Ring')!.path;
const down = (held?: SpreadRecord['held']): SpreadRecord => ({
  ...spread,
  pulls: [{ components: [ring], direction: [0, 0, -1], distanceMm: 80 }],
  ...(held ? { held } : {}),
});

test('the planned spread passes through nothing', () => {
  expect(passing(spread)).toEqual([]);
});

test('a pull through something is found, with what goes through what', () => {
  const [found] = passing(down());
  expect(found).toMatchObject({ severity: 'should', sheet: null, about: [spread.id, ring] });
  expect(found!.text).toMatch(/takes 6 Ring through .*1 Plate/);
});

test('what was chosen to be drawn through what holds it is only to be looked at', () => {
  expect(passing(down([{ components: [ring], by: [drawn.components[0]!.path], direction: [0, 0, -1] }])).map((f) => f.severity)).toEqual(['look']);
});

test('what stands around a view of one sub-assembly is no matter of its spread; a spread that no view shows is not asked', () => {
  const view = drawn.scene.all('view').find((v) => v.spread === spread.id)!;
  const changed = (change: object) => {
    const document = { ...drawn.document, [spread.id]: down(), [view.id]: { ...view, ...change } };
    return findingsOf(new Scene({ ...drawn, document, hits: new Map([[spread.id, hitsOf(down())]]) })).filter((f) => f.code === 'PASSES_THROUGH');
  };
  const [plate, post] = ['Plate', 'Post'].map((n) => drawn.components.find((c) => c.name === n)!.path);
  expect(changed({ shows: { only: true, of: [ring, post!] } })).toEqual([]);
  expect(changed({ shows: { only: true, of: [ring, plate!] } })).toHaveLength(1);
  expect(changed({ off: true })).toEqual([]);
});

test('before a spread is checked nothing is said of its ways; a prover says it once it is told', () => {
  const prover = new Prover(machine.assembly);
  const document = { ...drawn.document, [spread.id]: down() };
  prover.change({ put: Object.values(document), drop: [] });
  for (const [view, result] of drawn.results) prover.setResult(view, result);
  const codes = () => prover.prove().findings.filter((f) => f.code === 'PASSES_THROUGH').length;
  expect(codes()).toBe(0);
  prover.setHits(spread.id, hitsOf(down()));
  expect(codes()).toBe(1);
  prover.setHits(spread.id, []);
  expect(codes()).toBe(0);
});
