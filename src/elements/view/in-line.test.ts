import { describe, expect, test } from 'vitest';
import { rectOf } from '../../core/base/rect.ts';
import { dot, type Vec2 } from '../../core/base/vector.ts';
import { cutFromLine } from '../../core/cut/section-line.ts';
import type { DrawingRecord, SheetRecord, ViewRecord } from '../../core/document/records.ts';
import { applySteps } from '../../core/document/steps.ts';
import { findingsOf } from '../../core/proof/findings.ts';
import { fixOf } from '../../core/proof/findings.ts';
import { draftAll, smallMachine } from '../../core/testing/drafting.ts';
import { computeView } from '../../core/views/compute-view.ts';
import { specOf } from '../../core/views/view-spec.ts';
import { Scene } from '../scene.ts';
import { labelOf, viewRect } from './draw.ts';
import { broughtInLine, projectedSide } from './in-line.ts';
import { newSection, turnRound } from './sections.ts';

const machine = smallMachine();
const drawn = await draftAll(machine, { bare: true });

/** A sheet of its own with one view in its middle, large enough for neighbours all round. */
function sheetWith(id: 'view:front' | 'view:top', standard: 'iso' | 'asme') {
  const parent = { ...(drawn.document[id] as ViewRecord), sheet: 'sheet:own', at: [420, 300] as Vec2, parent: null, align: null, scale: 0.5 };
  const document = {
    drawing: { ...(drawn.document['drawing'] as DrawingRecord), standard },
    'sheet:own': { ...(drawn.document['sheet:1'] as SheetRecord), id: 'sheet:own', size: 'A1' },
    [id]: parent,
  };
  return { parent, scene: new Scene({ ...drawn, document }) };
}
function withView(scene: Scene, view: ViewRecord): Scene {
  const document = { ...scene.document, [view.id]: view };
  const own = computeView(machine.assembly, machine.geometries, specOf(view, document, drawn.components));
  const results = { get: (id: string) => (id === view.id ? own : drawn.results.get(id)) };
  return new Scene({ ...drawn, document, results });
}
function sectionAlong(scene: Scene, parent: ViewRecord, line: readonly [Vec2, Vec2]): ViewRecord {
  const cut = cutFromLine(line, parent);
  if ('wrong' in cut) throw new Error(cut.wrong);
  const result = computeView(machine.assembly, machine.geometries, {
    frame: cut.frame, hidden: false, tangent: false, shaded: false, spread: null, cut: { ...cut.plane, keptWhole: [] },
  }); // prettier-ignore
  return newSection(scene, { id: 'view:cut', parent, cut, keptWhole: [], box: result.box });
}
const MIDDLE = 25;
/** On paper: where the section stands beside its parent, and where its reader does. */
const stands = (view: ViewRecord, parent: ViewRecord): Vec2 => [view.at[0] - parent.at[0], view.at[1] - parent.at[1]];
const reader = (view: ViewRecord, parent: ViewRecord): Vec2 => [dot(view.cut!.normal, parent.right), -dot(view.cut!.normal, parent.up)];

// ISO 5456-2 and ASME Y14.3 (from memory): the arrows of a third-angle section point away from it, those of a first-angle one at it.
describe.each(['iso', 'asme'] as const)('a section in %s stands where projection has it for its arrows', (standard) => {
  const sign = standard === 'iso' ? -1 : 1;
  describe.each(['view:front', 'view:top'] as const)('of %s', (of) => {
    test.each([
      ['level, drawn to the right', [-90, MIDDLE], [90, MIDDLE]],
      ['level, drawn to the left', [90, MIDDLE], [-90, MIDDLE]],
      ['upright, drawn up', [3, -90], [3, 90]],
      ['upright, drawn down', [3, 90], [3, -90]],
    ] as const)('%s, and turned round on the other side', (_, a, b) => {
      const { scene, parent } = sheetWith(of, standard);
      let view = sectionAlong(scene, parent, [a, b]);
      let now = withView(scene, view);
      for (const turn of [0, 1]) {
        if (turn) {
          const { steps, freed } = turnRound(now, view);
          expect(freed).toBe(false);
          const done = applySteps(now.document, steps);
          if (!done.ok) throw new Error(done.reason);
          const before = view;
          view = done.document['view:cut'] as ViewRecord;
          expect(dot(view.toward, before.toward)).toBeCloseTo(-1, 9);
          now = withView(scene, view);
        }
        const [by, seen] = [stands(view, parent), reader(view, parent)];
        const level = a[1] !== b[1];
        expect(view).toMatchObject({ parent: of, align: level ? 'level' : 'upright' });
        // On the side of the reader in third angle, beyond in first.
        const k = level ? 0 : 1;
        expect(Math.sign(by[k])).toBe(sign * Math.sign(Math.round(seen[k])));
        // It shares the axis across, and lies point for point in line.
        expect(dot(level ? view.up : view.right, level ? parent.up : parent.right)).toBeCloseTo(1, 9);
        const [m, p] = [now.map(view), now.map(parent)];
        expect(level ? m.y(7) : m.x(7)).toBeCloseTo(level ? p.y(7) : p.x(7), 6);
        expect(projectedSide(view, parent, standard)!.side[k]).toBe(Math.sign(by[k]));
        expect(findingsOf(now).filter((f) => f.code === 'PROJECTION' || f.code === 'OUT_OF_LINE')).toEqual([]);
      }
    });
  });

  test('without room there it stands free, never in line on the wrong side; later it is brought into line', () => {
    const { scene, parent } = sheetWith('view:front', standard);
    const [rect, sheet] = [rectOf(viewRect(parent, scene.result(parent.id))), scene.page('sheet:own').geometry.frame];
    const wanted = sectionAlong(scene, parent, [[3, -90], [3, 90]]); // prettier-ignore
    const side = Math.sign(stands(wanted, parent)[0]);
    // The parent stands so near to that side of the frame that nothing goes between.
    const edge = side > 0 ? sheet.x + sheet.width - rect.width / 2 - 8 : sheet.x + rect.width / 2 + 8;
    const shifted = { ...parent, at: [parent.at[0] + edge - (rect.x + rect.width / 2), parent.at[1]] as Vec2 };
    const crowded = new Scene({ ...drawn, document: { ...scene.document, [parent.id]: shifted }, results: drawn.results });
    const free = sectionAlong(crowded, shifted, [[3, -90], [3, 90]]); // prettier-ignore
    expect([free.align, free.parent]).toEqual([null, null]);
    expect(broughtInLine(withView(crowded, free), free)).toBeUndefined();
    const back = withView(scene, free);
    expect(broughtInLine(back, free)).toMatchObject({ align: 'level', parent: parent.id });
    expect(Math.sign(stands(broughtInLine(back, free)!, parent)[0])).toBe(side);
  });

  test('on the wrong side it must be put right, in one press', () => {
    const { scene, parent } = sheetWith('view:front', standard);
    const made = sectionAlong(scene, parent, [[3, -90], [3, 90]]); // prettier-ignore
    const wrong = { ...made, at: [2 * parent.at[0] - made.at[0], made.at[1]] as Vec2 };
    const now = withView(scene, wrong);
    const [finding] = findingsOf(now).filter((f) => f.code === 'PROJECTION');
    expect(finding).toMatchObject({ severity: 'must', about: ['view:cut', parent.id] });
    const [step] = fixOf(finding!, now, (t) => t);
    expect(step).toMatchObject({ op: 'put', record: { id: 'view:cut', align: 'level' } });
    expect(Math.sign(stands((step as { record: ViewRecord }).record, parent)[0])).toBe(Math.sign(stands(made, parent)[0]));
  });
});

test('a label that is switched off is not printed', () => {
  const section = drawn.document['view:section'] as ViewRecord;
  expect(labelOf(section, false)).toBe(`A–A (${section.scale === 1 ? '1:1' : '1:2'})`);
  expect(labelOf({ ...section, label: false }, false)).toBe('');
});
