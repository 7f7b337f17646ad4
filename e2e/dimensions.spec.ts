import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { as1Job, drawnJob, dropFile, errorsOn, kept, letter } from './helpers';

/** The job that the tests below work on: each goes on where the one before left off. */
let job = '';

async function open(page: Page): Promise<string[]> {
  const broken = errorsOn(page);
  if (job) await page.goto(job);
  else job = await as1Job(page);
  await expect(dimensions(page).first()).toBeVisible({ timeout: 30_000 });
  await page.locator('[data-id="view:front"] path').first().waitFor();
  return broken;
}

const dimensions = (page: Page) => page.getByTestId('sheet').locator('[data-role=dimension]');
const texts = (page: Page) => dimensions(page).locator('text').allTextContents();
const slip = (page: Page) => page.getByRole('region', { name: 'Slip' });

/** as1-oc-214 from the front: from x = -10 to 190, from z = -4 to 80. @returns pixels of a place in the view, or beside it */
async function place(page: Page, x: number, z: number, below = 0): Promise<readonly [number, number]> {
  const box = (await page.locator('[data-id="view:front"] path').evaluateAll((paths) => {
    const boxes = paths.map((p) => (p as SVGPathElement).getBoundingClientRect());
    const [left, top] = [Math.min(...boxes.map((b) => b.left)), Math.min(...boxes.map((b) => b.top))];
    return { left, top, right: Math.max(...boxes.map((b) => b.right)), bottom: Math.max(...boxes.map((b) => b.bottom)) };
  }))!;
  const mm = (await page.getByTestId('sheet').boundingBox())!.width / 420;
  return [box.left + ((x + 10) / 200) * (box.right - box.left), below ? box.bottom + below * mm : box.bottom - ((z + 4) / 84) * (box.bottom - box.top)];
}

async function press(page: Page, at: readonly [number, number]): Promise<void> {
  await page.mouse.move(...at);
  await page.mouse.down();
  await page.mouse.up();
}

/** The front view large on the screen: what is small can be aimed at. */
async function closer(page: Page): Promise<void> {
  await page.mouse.move(...(await place(page, 170, 20)));
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -150);
  await page.waitForTimeout(100);
}

test('the first drawing says its sizes and has its centrelines', async ({ page }) => {
  const broken = await open(page);
  await expect.poll(() => texts(page), { timeout: 30_000 }).toEqual(expect.arrayContaining(['200', '84', '150']));
  await expect(page.getByTestId('sheet').locator('[data-role=centre]')).toHaveCount(4);
  expect(broken).toEqual([]);
});

test('a dimension is picked, seen before it is placed, refined, taken back', async ({ page }) => {
  const broken = await open(page);
  await closer(page);
  const before = await dimensions(page).count();
  await letter(page, '1');
  await press(page, await place(page, 0, 12));
  await press(page, await place(page, 180, 12));
  await page.mouse.move(...(await place(page, 90, 0, 24)));
  await expect(slip(page).getByRole('heading', { name: '180', exact: true })).toBeVisible();
  await expect(page.getByTestId('dimension').locator('text')).toHaveText('180');
  await press(page, await place(page, 90, 0, 24));
  await kept(page);
  await expect(dimensions(page)).toHaveCount(before + 1);

  // Decimals, unit, tolerance, words.
  await page.keyboard.press('Escape');
  await slip(page).getByRole('group', { name: 'Shown as' }).getByRole('button', { name: 'both' }).click();
  await kept(page);
  expect((await texts(page)).join(' ')).toContain('7.09');
  await slip(page).getByRole('group', { name: 'Shown as' }).getByRole('button', { name: 'mm' }).click();
  await slip(page).getByRole('textbox', { name: 'Tolerance' }).fill('+0.1 -0.2');
  await page.keyboard.press('Enter');
  await kept(page);
  expect(await texts(page)).toEqual(expect.arrayContaining(['+0.1', '-0.2']));
  await slip(page).getByRole('textbox', { name: 'After' }).fill('C-C');
  await page.keyboard.press('Enter');
  await kept(page);
  expect(await texts(page)).toContain('C-C');
  await slip(page).getByRole('button', { name: 'Remove', exact: true }).click();
  await kept(page);
  await expect(dimensions(page)).toHaveCount(before);
  await page.keyboard.press('Control+z');
  await kept(page);
  await expect(dimensions(page)).toHaveCount(before + 1);
  expect(broken).toEqual([]);
});

test('running values from a zero, one more added afterwards', async ({ page }) => {
  const broken = await open(page);
  await closer(page);
  await letter(page, '1');
  await slip(page).getByRole('group', { name: 'Several in one go' }).getByRole('button', { name: 'running' }).click();
  await press(page, await place(page, 0, 12));
  await press(page, await place(page, 180, 12));
  await press(page, await place(page, 90, 0, 31));
  await kept(page);
  expect(await texts(page)).toEqual(expect.arrayContaining(['0', '180']));
  await page.keyboard.press('Escape');
  await slip(page).getByRole('button', { name: 'Add to it' }).click();
  // The inner side of the left bracket.
  await press(page, await place(page, 15, 50));
  await kept(page);
  expect(await texts(page)).toEqual(expect.arrayContaining(['0', '180', '15']));
  expect(broken).toEqual([]);
});

test('the diameter of the rod from the side, and a thread on it by hand', async ({ page }) => {
  const broken = await open(page);
  await closer(page);
  await letter(page, '1');
  await press(page, await place(page, 90, 65));
  await page.mouse.move(...(await place(page, 130, 40)));
  await expect(slip(page).getByRole('heading', { name: 'Ø10' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  await letter(page, '6');
  await press(page, await place(page, 90, 65));
  await expect(slip(page).getByText('No thread', { exact: true })).toBeVisible();
  await slip(page).getByRole('textbox', { name: 'Designation' }).fill('M10');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(slip(page).getByText('M10, set by hand')).toBeVisible();
  await slip(page).getByRole('textbox', { name: 'Designation' }).fill('about ten');
  await page.keyboard.press('Enter');
  await expect(page.getByText('“about ten” is no thread.')).toBeVisible();
  expect(broken).toEqual([]);
});

test('a centreline between two edges is drawn and extended', async ({ page }) => {
  const broken = await open(page);
  await closer(page);
  const centres = page.getByTestId('sheet').locator('[data-role=centre]');
  const before = await centres.count();
  await letter(page, '3');
  await press(page, await place(page, 0, 12));
  await press(page, await place(page, 180, 12));
  await press(page, await place(page, 90, 0, 14));
  await kept(page);
  await expect(centres).toHaveCount(before + 1);
  await expect(page.getByRole('heading', { name: 'Centre mark' })).toBeVisible();
  expect(broken).toEqual([]);
});

test('a note with a leader, written where it stands; a hole callout; both are removed', async ({ page }) => {
  const broken = await open(page);
  const notes = page.getByTestId('sheet').locator('[data-role=note]');
  await letter(page, '4');
  await press(page, await place(page, 90, 65));
  await press(page, await place(page, 110, 100));
  await page.getByRole('textbox', { name: 'Text of the note' }).first().fill('Grease *before* use');
  await page.keyboard.press('Control+Enter');
  await kept(page);
  await expect(notes).toHaveCount(1);
  expect(await notes.locator('text').allTextContents()).toEqual(['Grease', 'before', 'use']);
  await notes.first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await kept(page);
  await expect(notes).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('lines on the sheet meet and stay together; a view without holes has no table of positions', async ({ page }) => {
  const broken = await open(page);
  const figures = page.getByTestId('sheet').locator('[data-role=figure]');
  const b = (await page.getByTestId('sheet').boundingBox())!;
  const paper = (x: number, y: number) => [b.x + (x / 420) * b.width, b.y + (y / 297) * b.height] as const;
  await letter(page, '8');
  await press(page, paper(40, 220));
  await press(page, paper(90, 220.3));
  await press(page, paper(90, 250));
  await kept(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await expect(figures).toHaveCount(2);
  // Nearly level is level.
  const ends = async () =>
    (await figures.locator('path').evaluateAll((all) => all.map((p) => p.getAttribute('d')!)))
      .map((d) => d.match(/-?[\d.]+/g)!.map(Number))
      // Their ids are random: the one that begins on the left is the first.
      .sort((a, b) => a[0]! - b[0]!);
  const [first, second] = (await ends()) as [number[], number[]];
  expect(first[1]).toBe(first[3]);
  expect(first.slice(2)).toEqual(second.slice(0, 2));

  // The corner is pulled: both lines go along.
  await press(page, paper(60, 220));
  const corner = paper(90, 220);
  await page.mouse.move(...corner);
  await page.mouse.down();
  await page.mouse.move(corner[0] + 30, corner[1] + 12, { steps: 4 });
  await page.mouse.up();
  await kept(page);
  const [a, c] = (await ends()) as [number[], number[]];
  expect(a.slice(2)).toEqual(c.slice(0, 2));
  expect(a[2]!).toBeGreaterThan(first[2]!);

  await page.locator('[data-id="view:front"]').focus();
  await page.keyboard.press('Enter');
  await letter(page, '7');
  await expect(page.getByText('This view sees no hole along its axis.')).toBeVisible();
  expect(broken).toEqual([]);
});

test('a weld by hand: its sign is placed, gets another symbol and a process, and is taken back', async ({ page }) => {
  const broken = await open(page);
  const signs = page.getByTestId('sheet').locator('[data-role=sign]');
  await page.getByRole('button', { name: 'More of Note' }).click();
  await page.getByRole('menuitem', { name: /^Weld/ }).click();
  await press(page, await place(page, 0, 12));
  await press(page, await place(page, -40, 40));
  await kept(page);
  await expect(signs).toHaveCount(1);
  await expect(signs.locator('text')).toHaveText(['a4']);
  await slip(page).getByLabel('Arrow side').selectOption('single V');
  await slip(page).getByLabel('In the fork: process').fill('135');
  await slip(page).getByLabel('In the fork: process').press('Enter');
  await kept(page);
  await expect(signs.locator('text')).toHaveText(['a4', '135']);
  await slip(page).getByRole('button', { name: 'Remove' }).click();
  await kept(page);
  await expect(signs).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('a table of the drafter’s own cells is written cell by cell; rows are pasted', async ({ page }) => {
  const broken = await open(page);
  const table = page.getByTestId('sheet').locator('[data-role=table]');
  await page.getByRole('button', { name: 'More of Draw' }).click();
  await page.getByRole('menuitem', { name: /^Table of/ }).click();
  await page.keyboard.type('Joint');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Torque');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(table.locator('text')).toHaveText(['Joint', 'Torque']);
  await slip(page).getByLabel('Rows from a spreadsheet').fill('M8\t25 Nm\nM10\t49 Nm');
  await slip(page).getByRole('button', { name: 'Take these rows' }).click();
  await kept(page);
  await expect(table.locator('text')).toHaveText(['Joint', 'Torque', 'M8', '25 Nm', 'M10', '49 Nm']);
  await page.keyboard.press('Delete');
  await kept(page);
  await expect(table).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('sizes and tolerances that a model states come onto the sheet in one press', async ({ page }) => {
  await page.goto('/');
  await dropFile(page, 'stated.step', readFileSync('src/kernel/testing/stated.step'));
  await drawnJob(page);
  await expect(dimensions(page).first()).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'More of Dimension' }).click();
  await page.getByRole('menuitem', { name: /^Sizes and tolerances/ }).click();
  await kept(page);
  expect((await texts(page)).join(' ')).toContain('H7');
  await expect(page.getByTestId('sheet').locator('[data-role=sign]').first()).toBeVisible();
});
