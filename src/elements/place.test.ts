import { describe, expect, test } from 'vitest';
import { inflate, overlaps, rectOf, type Rect } from '../core/base/rect.ts';
import type { DrawingDocumentRecord, ViewRecord } from '../core/document/records.ts';
import { textRect } from '../core/picture/ink.ts';
import { computedScenes, draftAll, smallMachine } from '../core/testing/drafting.ts';
import { newBalloon } from './balloon/place/add.ts';
import { newCode } from './code/place.ts';
import { composeSheet } from './compose.ts';
import { newList } from './list/new-list.ts';
import { freeRoom, standingOn } from './place.ts';
import type { Scene } from './scene.ts';
import { newDetail } from './view/detail-of.ts';
import { newSection, slices } from './view/sections.ts';
import { cutFromLine } from '../core/cut/section-line.ts';
import { viewRect } from './view/draw.ts';

const machine = smallMachine();
const drafted = await draftAll(machine);
const computed = computedScenes(machine);
const [first] = drafted.scene.sheets;
const sheet = first!.id;
/** With more paper to the right and below than the first drawing took. */
const document = { ...drafted.document, [sheet]: { ...first!, size: 'A2' } };
const scene = computed(document);
const withRecords = (records: readonly DrawingDocumentRecord[]): Scene => computed({ ...document, ...Object.fromEntries(records.map((r) => [r.id, r])) });
const groupsOf = (s: Scene, id: string) => composeSheet(s, sheet).groups.filter((g) => g.id.split('/')[0] === id);
/** What of a sheet something lies on. */
const under = (s: Scene, r: Rect, id: string) =>
  standingOn(s, sheet, { id })
    .filter((t) => overlaps(t, r))
    .map((t) => ({ ...t }));

describe('what the program places itself', () => {
  test('a parts list goes where there is room, each further one too; without room it says so', () => {
    let now = scene;
    const made: DrawingDocumentRecord[] = [];
    for (let n = 1; n <= 12; n++) {
      const { record, free } = newList(now, sheet, `list:new${n}`);
      made.push(record);
      const next = withRecords(made);
      const on = groupsOf(next, record.id).flatMap((g) => under(now, rectOf(g.box), record.id));
      if (!free) {
        expect(on.length).toBeGreaterThan(0);
        expect(n).toBeGreaterThan(1);
        return;
      }
      expect(on).toEqual([]);
      now = next;
    }
    throw new Error('A sheet holds no twelve lists.');
  });

  test('free room is the nearest there is: what is free stays where it is wanted', () => {
    const { frame } = scene.page(sheet).geometry;
    const size = [30, 20] as const;
    const on = rectOf(viewRect(scene.viewsOn(sheet)[0]!, scene.result(scene.viewsOn(sheet)[0]!.id)));
    const at = freeRoom(scene, sheet, size, [on.x + on.width / 2, on.y + on.height / 2])!;
    const rect = { x: at[0], y: at[1], width: size[0], height: size[1] };
    expect(standingOn(scene, sheet).filter((t) => overlaps(t, rect))).toEqual([]);
    expect(freeRoom(scene, sheet, size, at)).toEqual(at);
    expect(freeRoom(scene, sheet, [frame.width, frame.height], at)).toBeUndefined();
  });

  test('a code goes into a corner that is free', () => {
    const record = newCode(scene, sheet, 'code:new');
    const rect = { x: record.at[0], y: record.at[1], width: record.sizeMm, height: record.sizeMm };
    expect(standingOn(scene, sheet).filter((t) => overlaps(t, rect))).toEqual([]);
  });

  test('a balloon set by hand stands clear of other views, of lists and of other balloons', () => {
    const { style } = scene.page(sheet);
    for (const view of scene.viewsOn(sheet)) {
      const result = scene.result(view.id)!;
      const box = rectOf(viewRect(view, result));
      let now = scene;
      const made: DrawingDocumentRecord[] = [];
      for (const [n, c] of scene.components.entries()) {
        const record = newBalloon(now, view, c.index, [box.x + box.width * 0.9, box.y + box.height / 2], `balloon:new${n}`);
        if (!record) continue;
        made.push(record);
        const next = withRecords(made);
        const round = { x: view.at[0] + record.offset[0], y: view.at[1] + record.offset[1] };
        const r = inflate({ ...round, width: 0, height: 0 }, style.balloon / 2);
        const others = standingOn(now, sheet, { family: view.id }).filter((t) => overlaps(t, r));
        expect(others, `${view.name} ${c.name}`).toEqual([]);
        const near = made
          .slice(0, -1)
          .filter((o) => o.type === 'balloon' && Math.hypot(o.offset[0] - record.offset[0], o.offset[1] - record.offset[1]) < style.balloon);
        expect(near).toEqual([]);
        now = next;
      }
      expect(made.length).toBeGreaterThan(2);
    }
  });

  test('a new section keeps clear of the labels and arrows of the others', () => {
    const front = scene.one('view', 'view:front')!;
    const [x0, y0, x1, y1] = scene.result(front.id)!.box;
    const made: ViewRecord[] = [];
    let now = scene;
    for (const share of [0.3, 0.5]) {
      const x = x0 + (x1 - x0) * share;
      const cut = cutFromLine(
        [
          [x, y0],
          [x, y1],
        ],
        front,
      );
      if ('wrong' in cut) throw new Error(cut.wrong);
      const record = newSection(now, { id: `view:s${made.length}`, parent: now.one('view', front.id)!, cut, keptWhole: [], box: [-60, 0, 60, 70] });
      const rect = { x: record.at[0] - 60 * record.scale, y: record.at[1] - 35 * record.scale, width: 120 * record.scale, height: 70 * record.scale };
      const labels = composeSheet(now, sheet).groups.flatMap((g) =>
        g.role === 'view' && g.id !== front.id ? g.items.flatMap((i) => (i.kind === 'text' ? [textRect(i)] : [])) : [],
      );
      expect(labels.filter((l) => overlaps(l, rect))).toEqual([]);
      made.push(record);
      now = withRecords(made);
    }
  });
});

describe('letters on a view', () => {
  const lettersIn = (s: Scene, id: string, wanted: readonly string[]) =>
    groupsOf(s, id).flatMap((g) => g.items.flatMap((i) => (i.kind === 'text' && wanted.includes(i.text) ? [{ text: i.text, rect: textRect(i) }] : [])));

  test('a detail’s letter stands on no line, wherever its outline lies', () => {
    const front = scene.one('view', 'view:front')!;
    const result = scene.result(front.id)!;
    const [x0, y0, x1, y1] = result.box;
    const map = scene.map(front);
    for (const [u, v] of [
      [0.1, 0.1],
      [0.3, 0.3],
      [0.5, 0.1],
      [0.5, 0.5],
      [0.7, 0.4],
      [0.95, 0.9],
    ] as const)
      for (const radius of [4, 12, 30]) {
        const within = { kind: 'circle' as const, at: [x0 + (x1 - x0) * u, y0 + (y1 - y0) * v] as const, radius };
        const { record } = newDetail(scene, front, within, 'view:d');
        const letter = record.detail!.letter;
        const [found] = lettersIn(withRecords([record]), front.id, [letter]);
        const { lines } = result;
        for (let i = 0; i < lines.kind.length; i++)
          for (let p = lines.start[i]!; p < lines.start[i + 1]!; p++) {
            const [px, py] = [map.x(lines.xy[p * 2]!), map.y(lines.xy[p * 2 + 1]!)];
            const { rect } = found!;
            expect(px > rect.x && px < rect.x + rect.width && py > rect.y && py < rect.y + rect.height, `${u} ${v} ${radius}`).toBe(false);
          }
      }
  });

  test('arrows and letters of cuts that lie close stand clear of each other', () => {
    const section = scene.one('view', 'view:section')!;
    const small = { ...section, scale: section.scale / 4 };
    const parent = scene.one('view', section.cut!.shownIn ?? '')!;
    const close = slices(withRecords([small, { ...parent, scale: parent.scale / 4 }]), small, [3, 6, 9], (n) => `view:slice${n}`);
    const letters = [section.cut!.letter, ...close.map((s) => s.cut!.letter)];
    const found = lettersIn(withRecords([small, { ...parent, scale: parent.scale / 4 }, ...close]), parent.id, letters);
    expect(found).toHaveLength(2 * letters.length);
    found.forEach((a, i) => found.slice(i + 1).forEach((b) => expect(overlaps(a.rect, b.rect), `${a.text} on ${b.text}`).toBe(false)));
  });
});
