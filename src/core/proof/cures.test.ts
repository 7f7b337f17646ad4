import { describe, expect, test } from 'vitest';
import { Scene } from '../../elements/scene.ts';
import { applySteps } from '../document/steps.ts';
import { PLAIN_VIEW, type DrawingDocument, type ViewRecord } from '../document/records.ts';
import { computedScenes, draftAll } from '../testing/drafting.ts';
import { assemblyOf, box, cylinder } from '../testing/shapes.ts';
import { cureScale, cureSteps, detailOf, sectionThrough } from './cure-steps.ts';
import { searchCures, type Cure } from './cure-search.ts';
import { findingsOf } from './findings.ts';

/** A closed box of six plates around a slug, and a disc in the middle of a recess below. */
const machine = assemblyOf([
  { name: 'Floor', geometry: box([-50, -30, 10], [50, 30, 15]) },
  { name: 'Lid', geometry: box([-50, -30, 45], [50, 30, 50]) },
  { name: 'Wall left', geometry: box([-50, -30, 15], [-45, 30, 45]) },
  { name: 'Wall right', geometry: box([45, -30, 15], [50, 30, 45]) },
  { name: 'Wall front', geometry: box([-45, -30, 15], [45, -25, 45]) },
  { name: 'Wall back', geometry: box([-45, 25, 15], [45, 30, 45]) },
  { name: 'Slug', geometry: cylinder(8, 24, 96), at: [10, 0, 15] },
  { name: 'Foot left', geometry: box([-50, -30, 0], [-20, 30, 10]) },
  { name: 'Foot right', geometry: box([20, -30, 0], [50, 30, 10]) },
  { name: 'Foot front', geometry: box([-20, -30, 0], [20, -20, 10]) },
  { name: 'Foot back', geometry: box([-20, 20, 0], [20, 30, 10]) },
  { name: 'Disc', geometry: cylinder(6, 2, 96), at: [0, 0, 8] },
]);
const { assembly, geometries } = machine;
const drafted = await draftAll(machine, { bare: true });
let counted = 0;
const freshId = (type: string) => `${type}:t${++counted}`;

const sceneOf = computedScenes(machine);
/** Only one plain view from the front: the slug and the disc are seen nowhere. */
const front: ViewRecord = {
  ...(drafted.document['view:front'] as ViewRecord),
  ...PLAIN_VIEW,
  scale: 0.5,
};
const bare = sceneOf(
  Object.fromEntries(
    Object.entries(drafted.document)
      .filter(([, r]) => r.type === 'sheet' || r.type === 'drawing' || r.type === 'spread')
      .concat([['view:front', front]]),
  ) as DrawingDocument,
);
const curesOf = (part: string) => searchCures(assembly, geometries, bare.document, part);
const ofKind = (cures: readonly Cure[], kind: Cure['kind']) => cures.filter((c) => c.kind === kind);
const applied = (scene: Scene, steps: Parameters<typeof applySteps>[1]): Scene => {
  const r = applySteps(scene.document, steps);
  if (!r.ok) throw new Error(r.reason);
  return sceneOf(r.document);
};

describe('ways to show what no view shows', () => {
  test('no direction shows what is shut in; a section does, with the area of its own outline there', () => {
    const cures = curesOf('Slug');
    expect(ofKind(cures, 'direction')).toEqual([]);
    const [section] = ofKind(cures, 'section');
    // Through its axis a cylinder is a rectangle, across it a circle: 2 r h = 384 is more than π r² = 201 (mm²).
    expect(section!.areaMm2).toBeCloseTo(384, -1);
    expect(section!.share).toBeGreaterThan(0.98);
  });

  test('what stands in a recess is seen best from the side that is open, all of it', () => {
    const [below] = ofKind(curesOf('Disc'), 'direction');
    expect(below!.name).toBe('From below');
    expect(below!.areaMm2 / (Math.PI * 36)).toBeCloseTo(1, 1);
    expect(below!.frame.toward).toEqual([0, 0, -1]);
  });

  test('a spread is offered where it lays the item open', () => {
    const pulls = bare.all('spread')[0]?.pulls.length ?? 0;
    const cures = ofKind(curesOf('Slug'), 'spread');
    expect(cures.length > 0).toBe(pulls > 0);
    for (const c of cures) expect(c.spread).toBe(bare.all('spread')[0]!.id);
  });

  test('each is drawn as it says: what was seen nowhere is seen then, with at least the promised area', () => {
    for (const part of ['Slug', 'Disc'])
      for (const cure of curesOf(part)) {
        const after = applied(bare, cureSteps(bare, cure, freshId));
        const view = after.all('view').find((v) => v.id !== 'view:front')!;
        const component = after.items.find((i) => i.part === part)!.components[0]!;
        const promised = cure.areaMm2 * cureScale(bare, cure).scale ** 2;
        expect(after.result(view.id)!.visibleArea[component]! * view.scale ** 2, `${part}: ${cure.name}`).toBeGreaterThan(0.9 * promised);
        expect(findingsOf(after).filter((f) => f.code === 'SEEN_NOWHERE' && f.about.includes(part))).toEqual([]);
      }
  });

  test('the small is shown alone, larger, the large with everything', () => {
    const whole = { kind: 'direction', name: '', frame: front, whole: [-100, -60, 100, 60] } as const;
    expect(cureScale(bare, { ...whole, box: [-50, -30, 50, 30] }).within).toBeUndefined();
    const small = cureScale(bare, { ...whole, box: [0, 0, 2, 1] });
    expect(small.within).toMatchObject({ kind: 'circle', at: [1, 0.5] });
    expect(small.scale).toBeGreaterThan(1);
  });

  test('the one-press section has its line on a view, and an item that is not there is refused', () => {
    const after = applied(bare, sectionThrough(bare, 'Slug', freshId));
    expect(after.all('view').find((v) => v.cut)!.cut!.shownIn).toBe('view:front');
    expect(() => curesOf('gone')).toThrow();
  });

  test('a detail goes around what is seen best, and shows it at least twice as large', () => {
    const scene = applied(bare, cureSteps(bare, ofKind(curesOf('Disc'), 'direction')[0]!, freshId));
    const of = scene.all('view').find((v) => v.id !== 'view:front')!;
    const smaller = applied(scene, [{ op: 'put', record: { ...of, scale: 0.1, within: undefined } as never }]);
    const detail = detailOf(smaller, 'Disc', 'view:d')!;
    expect(detail.record.detail!.of).toBe(of.id);
    expect(detail.record.scale).toBeGreaterThanOrEqual(0.2);
    expect(detailOf(bare, 'Slug', 'view:d')).toBeUndefined();
  });
});
