import { beforeEach, expect, test, vi } from 'vitest';

const said: [string, string][] = [];
vi.mock('$lib/shared/notices.svelte', () => ({ notify: (kind: string, text: string) => said.push([kind, text]), toaster: {} }));

import type { Vec2 } from '$core/base/vector';
import { recordsOf, type ViewRecord } from '$core/document/records';
import { openBench, type Bench } from '$lib/testing/fake-job';
import { Tools } from '$lib/sheets/tools.svelte';

let bench: Bench;
let tools: Tools;
beforeEach(async () => {
  said.length = 0;
  bench = await openBench(said);
  tools = new Tools(bench.drawing);
  bench.drawing.sheetId = 'sheet:1';
});
const paper = (id: string, at: Vec2): Vec2 => bench.drawing.scene.map(bench.drawing.document[id] as ViewRecord).toPaper(at);
async function press(at: Vec2) {
  tools.current.down({ at, grace: 1 });
  tools.current.up({ at, grace: 1 });
  await bench.settled();
}

test.each([
  ['hole-note', /speaks of a hole/],
  ['thread-note', /speaks of a thread/],
] as const)('%s pressed on the edge of a plate says what it needs and makes nothing', async (tool, sentence) => {
  tools.take(tool);
  const edge = recordsOf(bench.document(), 'view').find((v) => v.id === 'view:front')!;
  const box = bench.drawing.scene.result(edge.id)!.box;
  await press(paper(edge.id, [(box[0] + box[2]) / 2, box[1]]));
  await press([60, 60]);
  expect(said).toEqual([['trouble', expect.stringMatching(sentence)], ...said.slice(1)]);
  expect(recordsOf(bench.document(), 'note')).toEqual([]);
});
