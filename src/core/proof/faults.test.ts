import { expect, test } from 'vitest';
import { applySteps } from '../document/steps.ts';
import type { DrawingDocument } from '../document/records.ts';
import { computedScenes, draftAll } from '../testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { pickAt } from '../../elements/testing/pick.ts';
import { measured, type DimensionRecord } from '../../elements/dimension/measure.ts';
import { FAULTS, spoilt } from '../testing/faults.ts';
import { random } from '../testing/random.ts';
import { findingKey, type Finding } from './finding.ts';
import { findingsOf, fixOf } from './findings.ts';

/** A post in the middle of a plate, with a ring and a cap on it, between two blocks and a tower: a section along the post keeps it whole. */
const machine = assemblyOf([
  { name: 'Plate', geometry: box([-60, -40, 0], [60, 40, 8]) },
  { name: 'Block left', geometry: box([-40, -15, 8], [-25, 15, 50]) },
  { name: 'Block right', geometry: box([25, -15, 8], [40, 15, 50]) },
  { name: 'Tower', geometry: box([-10, 20, 8], [10, 35, 70]) },
  { name: 'Post', geometry: cylinder(6, 60), at: [0, 0, 8] },
  { name: 'Ring', geometry: cylinder(11, 5, 32, 6.2), at: [0, 0, 20] },
  { name: 'Cap', geometry: cylinder(9, 6), at: [0, 0, 68] },
]);
const drafted = await draftAll(machine);
const top = drafted.scene.one('view', 'view:top')!;
const toRing: DimensionRecord = {
  type: 'dimension',
  id: 'dimension:ring',
  view: top.id,
  kind: 'level',
  of: [pickAt(drafted.scene, top, [-60, 25]), pickAt(drafted.scene, top, [11, 0])],
  side: 'bottom',
  away: 10,
};

/** The drawing with everything filled in that a drafter fills in: nothing is to be found on it but what is spoilt. */
const filled: DrawingDocument = {
  ...drafted.document,
  [toRing.id]: { ...toRing, seen: measured(toRing, drafted.scene)!.map((m) => m.value) },
  drawing: { ...drafted.scene.drawing, title: 'Machine', number: 'M-1', owner: 'Works', drawnBy: 'AB', date: '2026-01-01' },
  ...Object.fromEntries(
    drafted.items.map((i) => [
      `property:${i.part}`,
      {
        type: 'property' as const,
        id: `property:${i.part}`,
        part: i.part,
        values: { source: 'made', drawingNumber: `P-${i.number}`, material: 'S355', mass: '1 kg' },
      },
    ]),
  ),
};

/** Of few words: enough for what stands on this drawing. */
const WORDS = new Set('assembly exploded view and parts list section front isometric top machine grease before use see sheet shown hex bolt'.split(' '));
const speller = (word: string) => WORDS.has(word.toLowerCase());
const sceneOf = computedScenes(machine, { features: drafted.features, speller });

const good = sceneOf(filled);
const before = findingsOf(good);
const keys = new Set(before.map(findingKey));
const SEEDS = [1, 2, 3];

test('the good drawing has nothing that must or should be put right', () => {
  expect(before.filter((f) => f.severity !== 'look').map((f) => `${f.code} ${f.text}`)).toEqual([]);
});

test('every seeded fault is found by its own finding, and nothing else is reported', () => {
  const table: { fault: string; found: string; false: string }[] = [];
  let [cases, found, reports, wrong] = [0, 0, 0, 0];
  for (const fault of FAULTS)
    for (const seed of SEEDS) {
      const change = fault.spoil(good, random(seed));
      expect(change, fault.name).toBeDefined();
      const after = findingsOf(sceneOf(spoilt(filled, change!))).filter((f) => !keys.has(findingKey(f)));
      const own = after.filter((f) => f.code === fault.code && (change!.about === undefined || f.about.some((a) => a.split('/')[0] === change!.about)));
      const strange = after.filter((f) => f.code !== fault.code && !fault.also?.includes(f.code));
      cases++;
      reports += after.length;
      found += Number(own.length > 0);
      wrong += strange.length;
      if (!own.length || strange.length)
        table.push({ fault: `${fault.name} (${seed})`, found: own.length ? 'yes' : `NO: ${said(after)}`, false: said(strange) });
    }
  console.log(
    `${FAULTS.length} ways, ${cases} spoilt drawings: recall ${(found / cases).toFixed(3)}, false ${((100 * wrong) / Math.max(1, reports)).toFixed(1)} %`,
  );
  if (table.length) console.table(table);
  expect(FAULTS.length).toBeGreaterThanOrEqual(40);
  expect(found).toBe(cases);
  expect(wrong / reports).toBeLessThan(0.05);
});

const said = (list: readonly Finding[]): string =>
  list
    .map((f) => `${f.code}: ${f.text}`)
    .join(' | ')
    .slice(0, 300);

// What one press promises it keeps: the finding is gone, and nothing worse has come.
test('a fix in one press puts right what it was offered for', () => {
  let [offered, done] = [0, 0];
  const failed: string[] = [];
  for (const fault of FAULTS)
    for (const seed of SEEDS) {
      const document = spoilt(filled, fault.spoil(good, random(seed))!);
      const scene = sceneOf(document);
      const finding = findingsOf(scene).find((f) => f.code === fault.code && f.fix !== undefined && !keys.has(findingKey(f)));
      if (!finding) continue;
      offered++;
      let n = 0;
      const steps = fixOf(finding, scene, (type) => `${type}:fixed${n++}`);
      const applied = applySteps(document, steps);
      if (!steps.length || !applied.ok) {
        failed.push(`${fault.name} (${seed}): ${steps.length ? 'refused' : 'nothing'}`);
        continue;
      }
      const after = findingsOf(sceneOf(applied.document));
      if (after.some((f) => findingKey(f) === findingKey(finding))) failed.push(`${fault.name} (${seed}): still there: ${finding.text}`);
      else done++;
    }
  console.log(`${offered} fixes offered, ${done} put it right`);
  expect(failed).toEqual([]);
  expect(offered).toBeGreaterThan(50);
});
