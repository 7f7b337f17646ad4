import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { AS1, centreOf, drag, drawnJob, dropFile, kept, middleOf, letter } from './helpers';

test.describe.configure({ mode: 'serial' });

let job = '';
async function open(page: Page): Promise<string[]> {
  const broken: string[] = [];
  page.on('pageerror', (e) => broken.push(e.message));
  if (!job) {
    await page.goto('/');
    await dropFile(page, 'as1.stp', readFileSync(AS1));
    job = await drawnJob(page);
  } else await page.goto(job);
  await expect(page.getByTestId('sheet')).toBeVisible({ timeout: 30_000 });
  await middleOf(page, '[data-id="view:front"]');
  await page.getByRole('application', { name: /^Sheet\./ }).focus();
  return broken;
}
const views = (page: Page) => page.getByTestId('sheet').locator('[data-role=view]');
const boxOf = async (page: Page, selector: string) => (await page.locator(selector).first().boundingBox())!;
const slip = (page: Page) => page.getByRole('region', { name: 'Slip' });
const toDesk = (page: Page) => page.getByRole('application', { name: /^Sheet\./ }).focus();
async function unfold(page: Page, title: string) {
  const head = slip(page).getByRole('button', { name: title, exact: true });
  if ((await head.getAttribute('aria-expanded')) !== 'true') await head.click();
}
async function does(page: Page, text: string) {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill(text);
  await page.keyboard.press('Enter');
}
/** Selects a view by its frame beside what it shows. */
async function select(page: Page, id: string) {
  await page.locator(`[data-id="${id}"]`).first().focus();
  await page.keyboard.press('Enter');
}
/** What the server has of the drawing. */
async function document(page: Page): Promise<Record<string, Record<string, unknown>>> {
  const id = /jobs\/([^/]+)/.exec(page.url())![1]!;
  const data = (await (await page.request.get(`/api/jobs/${id}/drawing`)).json()) as { document: Record<string, Record<string, unknown>> };
  return data.document;
}
const viewsKept = async (page: Page) => Object.values(await document(page)).filter((r) => r['type'] === 'view');

test('a view is placed where it is pressed, neighbours and a pictorial are pulled out of one', async ({ page }) => {
  const broken = await open(page);
  const before = await views(page).count();
  await letter(page, 'w');
  await expect(slip(page).getByRole('heading', { name: 'Place a view' })).toBeVisible();
  await slip(page).getByRole('button', { name: 'Bottom', exact: true }).click();
  const paper = await boxOf(page, '[data-testid=sheet]');
  await page.mouse.move(paper.x + paper.width * 0.45, paper.y + paper.height * 0.8);
  // It is seen before it is made.
  await expect(page.getByTestId('window')).toBeVisible();
  await page.mouse.down();
  await page.mouse.up();
  await kept(page);
  await expect(views(page)).toHaveCount(before + 1);
  expect((await viewsKept(page)).find((v) => v['name'] === 'Bottom')).toMatchObject({ toward: [0, 0, -1], parent: null });

  // First angle: what is pulled out to the right is the view from the left (ISO 5456-2).
  await select(page, 'view:front');
  const right = await centreOf(page.getByTestId('knob-pull-1-0'));
  await drag(page, right, 60, 25);
  await kept(page);
  const left = (await viewsKept(page)).find((v) => v['name'] === 'Left')!;
  expect(left).toMatchObject({ toward: [-1, 0, 0], parent: 'view:front', align: 'level' });
  const corner = await centreOf(page.getByTestId('knob-pull--1--1'));
  await drag(page, corner, -20, -12);
  await kept(page);
  expect((await viewsKept(page)).filter((v) => v['name'] === 'Isometric' || v['name'] === 'Pictorial').length).toBeGreaterThan(1);
  for (let i = 0; i < 3; i++) {
    await toDesk(page);
    await page.keyboard.press('Control+z');
    await kept(page);
  }
  await expect(views(page)).toHaveCount(before);
  expect(broken).toEqual([]);
});

test('a detail, a gap and a part of a view: drawn, changed, undone; nothing is computed for them', async ({ page }) => {
  const broken = await open(page);
  const before = await views(page).count();
  const asked: string[] = [];
  const front = await boxOf(page, '[data-id="view:front"]');
  page.on('request', (r) => r.url().includes('/views/') && asked.push(r.url()));
  await letter(page, 'z');
  await drag(page, { x: front.x + front.width * 0.2, y: front.y + front.height * 0.6 }, 14, 8);
  await kept(page);
  await expect(views(page)).toHaveCount(before + 1);
  await expect(slip(page).getByRole('heading', { name: /^Detail B/ })).toBeVisible();
  const detail = (await viewsKept(page)).find((v) => v['detail'])!;
  expect(detail).toMatchObject({ detail: { of: 'view:front', letter: 'B' }, within: { kind: 'circle' } });
  await middleOf(page, `[data-id="${detail['id'] as string}"]`);
  // Its circle is pulled larger on its view.
  const rim = await centreOf(page.getByTestId('handle-outline-rim'));
  await drag(page, rim, 8, 8);
  await kept(page);
  const larger = (await viewsKept(page)).find((v) => v['detail'])!;
  expect((larger['within'] as { radius: number }).radius).toBeGreaterThan((detail['within'] as { radius: number }).radius);

  await select(page, 'view:front');
  await toDesk(page);
  await letter(page, 'q');
  const wide = (await boxOf(page, '[data-id="view:front"]')).width;
  await drag(page, { x: front.x + front.width * 0.4, y: front.y + front.height * 0.4 }, front.width * 0.25, 2);
  await kept(page);
  expect((await boxOf(page, '[data-id="view:front"]')).width).toBeLessThan(wide - 5);
  await select(page, 'view:front');
  await unfold(page, 'Part of the view');
  await slip(page).getByLabel('Seen of a gap, mm on paper').fill('6');
  await page.keyboard.press('Enter');
  await kept(page);
  expect((await document(page))['view:front']).toMatchObject({ gapMm: 6, gaps: [{ axis: 'x' }] });

  await toDesk(page);
  await letter(page, 'y');
  const now = await boxOf(page, '[data-id="view:top"]');
  await drag(page, { x: now.x + now.width * 0.6, y: now.y + now.height * 0.3 }, now.width * 0.3, now.height * 0.4);
  await kept(page);
  expect((await document(page))['view:top']).toMatchObject({ within: { kind: 'box' } });
  expect(asked).toEqual([]);
  for (let i = 0; i < 5; i++) {
    await toDesk(page);
    await page.keyboard.press('Control+z');
    await kept(page);
  }
  await expect(views(page)).toHaveCount(before);
  expect((await document(page))['view:top']).not.toHaveProperty('within');
  expect(broken).toEqual([]);
});

test('a break goes down to an axis picked in another view, one component stays whole, hatching and slices are edited, all is undone', async ({ page }) => {
  const broken = await open(page);
  const start = await document(page);
  let edits = 0;
  const done = async () => {
    await kept(page);
    edits++;
  };
  const front = await boxOf(page, '[data-id="view:front"]');
  await letter(page, 'o');
  await slip(page).getByText('Rectangle').click();
  await drag(page, { x: front.x + front.width * 0.05, y: front.y + front.height * 0.55 }, front.width * 0.3, front.height * 0.5);
  await expect.poll(async () => ((await document(page))['view:front'] as { cut: unknown }).cut, { timeout: 20_000 }).not.toBeNull();
  await done();
  await expect(slip(page).getByText('Broken-out section')).toBeVisible();
  await slip(page).getByRole('button', { name: 'Depth from another view …' }).click();
  const top = await boxOf(page, '[data-id="view:top"]');
  await page.mouse.click(top.x + top.width * 0.3, top.y + top.height * 0.5);
  await done();
  const broke = (await document(page))['view:front'] as { cut: { d: number; keptWhole: string[] } };
  // as1 is 150 mm deep: the middle of the view from above is at y = 75, the line of sight runs against Y.
  expect(broke.cut.d).toBeCloseTo(-75, 0);
  await slip(page).getByLabel('Keep another item whole').selectOption({ index: 1 });
  await done();
  expect(((await document(page))['view:front'] as { cut: { keptWhole: string[] } }).cut.keptWhole.length).toBeGreaterThan(broke.cut.keptWhole.length);

  await select(page, 'view:section');
  await slip(page).getByLabel('Hatching', { exact: true }).selectOption({ index: 1 });
  await slip(page).getByLabel('Slope, °').fill('30');
  await page.keyboard.press('Enter');
  await done();
  const section = (await document(page))['view:section'] as { hatch: { angle: number }[] };
  expect(section.hatch[0]!.angle).toBeCloseTo(Math.PI / 6, 6);
  await slip(page)
    .getByLabel(/^Slices, mm from here/)
    .fill('10 20');
  await page.keyboard.press('Enter');
  await done();
  const slices = (await viewsKept(page)).filter((v) => (v['name'] as string).startsWith('Slice'));
  expect(slices).toHaveLength(2);
  // The position of a slice is typed anew.
  await select(page, slices[0]!['id'] as string);
  const field = slip(page).getByLabel(/from the (left|lower) edge, mm/i);
  const was = Number(await field.inputValue());
  await field.fill(String(was + 4));
  await page.keyboard.press('Enter');
  await done();
  const [before, after] = [slices[0]!, (await document(page))[slices[0]!['id'] as string]!].map((v) => (v['cut'] as { d: number }).d);
  expect(Math.abs(after! - before!)).toBeCloseTo(4, 2);

  // A parent is hidden, its neighbours stay; its settings go to another view.
  await select(page, 'view:front');
  await toDesk(page);
  await letter(page, 'h');
  await done();
  await unfold(page, 'Put settings on others');
  await slip(page)
    .getByRole('checkbox', { name: /Top, sheet/ })
    .check();
  await slip(page).getByRole('button', { name: 'Put on 1' }).click();
  await done();
  expect((await document(page))['view:top']).toMatchObject({ hidden: true });
  await toDesk(page);
  await does(page, 'Hide this view');
  await done();
  await expect(page.locator('[data-id="view:front"]')).toHaveCount(0);
  await expect(page.locator('[data-id="view:top"]').first()).toBeVisible();
  for (; edits > 0; edits--) {
    await toDesk(page);
    await page.keyboard.press('Control+z');
    await kept(page);
  }
  expect(await document(page)).toEqual(start);
  expect(broken).toEqual([]);
});

test('components are chosen for a view by picking and in the slip; the sheet is arranged', async ({ page }) => {
  const broken = await open(page);
  const iso = await middleOf(page, '[data-id="view:isometric"]');
  await page.mouse.click(iso.x, iso.y, { button: 'right' });
  await page.getByRole('menuitem', { name: /^More for item/ }).hover();
  await page.getByRole('menuitem', { name: /^Hide item \d+ here/ }).click();
  await kept(page);
  expect((await document(page))['view:isometric']).toMatchObject({ shows: { only: false } });
  await select(page, 'view:isometric');
  await unfold(page, 'Components');
  await slip(page).getByRole('button', { name: 'Show all', exact: true }).click();
  await kept(page);
  await slip(page).getByRole('button', { name: 'faint' }).first().click();
  await kept(page);
  expect(((await document(page))['view:isometric'] as { faint: string[] }).faint.length).toBeGreaterThan(0);

  const front = await middleOf(page, '[data-id="view:front"]');
  await drag(page, front, 30, 12);
  await kept(page);
  await toDesk(page);
  await letter(page, 'e');
  await kept(page);
  await expect(slip(page)).toBeVisible();
  const boxes = await Promise.all((await views(page).all()).map((v) => v.boundingBox()));
  boxes.forEach((a, i) => {
    for (const b of boxes.slice(i + 1))
      expect(a!.x < b!.x + b!.width && b!.x < a!.x + a!.width && a!.y < b!.y + b!.height && b!.y < a!.y + a!.height).toBe(false);
  });
  expect(broken).toEqual([]);
});
