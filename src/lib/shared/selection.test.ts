import { describe, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('./notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import { random } from '$core/testing/random';
import { isElement } from '$elements/kinds';
import { actionsOf } from '../sheets/actions';
import { Tools } from '../sheets/tools.svelte';
import { openBench } from '../testing/fake-job';
import { shownRecord } from './selection';

describe('one selection, of the sheet that is shown', () => {
  test.each([1, 2, 3, 4, 5, 6, 7, 8])('whatever is selected, removed, moved and opened: heading, fields and keys are of that sheet (%i)', async (seed) => {
    const { drawing } = await openBench(said);
    const tools = new Tools(drawing);
    const next = random(seed);
    const one = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!;
    const act = (id: string) => {
      const action = actionsOf(drawing, tools).find((a) => a.id === id);
      if (action && !action.disabled) action.run();
    };
    const ways: readonly (() => void)[] = [
      () => drawing.select({ kind: 'record', id: one(Object.keys(drawing.document)) }),
      () => drawing.select({ kind: 'record', id: 'gone' }),
      () => drawing.choose(Array.from({ length: 3 }, () => one(Object.keys(drawing.document)))),
      () => drawing.select({ kind: 'item', part: one(drawing.items).part, view: one(drawing.scene.all('view')).id }),
      () => drawing.select({ kind: 'field', field: 'title' }),
      () => (drawing.sheetId = one(drawing.sheets).id),
      () => act('remove'),
      () => act('duplicate'),
      () => act('to-next'),
      () => act('to-new'),
      () => act('undo'),
      () => act('sheet-copy'),
      () => act('select-all'),
    ];
    for (let n = 0; n < 60; n++) {
      one(ways)();
      const { scene, sheetId, selection } = drawing;
      expect(drawing.sheets.some((s) => s.id === sheetId)).toBe(true);
      const on = (id: string) => {
        const r = drawing.document[id];
        return r && isElement(r) ? scene.sheetOf(r)?.id : undefined;
      };
      for (const id of drawing.chosen) expect(on(id)).toBe(sheetId);
      for (const r of tools.pick.chosen) expect(on(r.id)).toBe(sheetId);
      if (selection.kind === 'item' && selection.view) expect(on(selection.view)).toBe(sheetId);
      if (tools.activeView) expect(tools.activeView.sheet).toBe(sheetId);
      const shown = shownRecord(selection, sheetId, scene);
      if (shown) expect(on(shown.id)).toBe(sheetId);
      // The slip is never blank.
      if (selection.kind === 'none' || selection.kind === 'record') expect(shown).toBeDefined();
    }
  });

  test('an element of another sheet opens that sheet', async () => {
    const { drawing } = await openBench(said);
    drawing.select({ kind: 'record', id: 'view:exploded' });
    expect(drawing.sheetId).toBe(drawing.scene.one('view', 'view:exploded')!.sheet);
    drawing.sheetId = drawing.sheets[0]!.id;
    expect(drawing.selection).toEqual({ kind: 'none' });
  });
});
