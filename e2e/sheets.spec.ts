import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { as1Job, centreOf, drag, errorsOn, kept, middleOf, letter } from './helpers';

/** The job that the tests below work on: each goes on where the one before left off. */
let job = '';

async function open(page: Page): Promise<string[]> {
  const broken = errorsOn(page);
  if (job) await page.goto(job);
  else job = await as1Job(page);
  await expect(page.getByTestId('sheet')).toBeVisible({ timeout: 30_000 });
  return broken;
}
const desk = (page: Page) => page.getByRole('application');
const strip = (page: Page) => page.getByRole('navigation', { name: 'Sheets' }).getByRole('button');
const sheet = (page: Page, name: string) =>
  strip(page)
    .and(page.getByRole('button', { name: new RegExp(name) }))
    .first();
const menuItem = (page: Page, name: string | RegExp) => page.getByRole('menuitem', { name });
const boxOf = async (page: Page, selector: string) => (await page.locator(selector).first().boundingBox())!;

test('sheets are added, named, duplicated, put in order by dragging, removed, and come back by undo', async ({ page }) => {
  const broken = await open(page);
  await middleOf(page, '[data-role=view]');
  await expect(strip(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Add a sheet after this one' }).click();
  await kept(page);
  await expect(strip(page)).toHaveCount(3);
  await expect(page.getByRole('heading', { name: 'Sheet 2 of 3' })).toBeVisible();
  await expect(page.getByTestId('sheet').locator('[data-role=view]')).toHaveCount(0);

  // Named where it stands: in the title block.
  await page.getByRole('button', { name: /^Sheet 2/ }).click({ button: 'right' });
  await menuItem(page, 'Name this sheet').click();
  await page.getByRole('textbox', { name: 'Document type', exact: true }).first().fill('Notes');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(page.getByRole('button', { name: 'Sheet 2: Notes' })).toBeVisible();

  // Dragged before the first one.
  const from = await centreOf(page.getByRole('button', { name: 'Sheet 2: Notes' }));
  const first = await centreOf(page.getByRole('button', { name: /^Sheet 1/ }));
  await drag(page, from, first.x - from.x - 40, 0);
  await kept(page);
  await expect(page.getByRole('button', { name: 'Sheet 1: Notes' })).toBeVisible();

  // Without border and title block it is empty paper.
  await page.getByRole('button', { name: 'Sheet 1: Notes' }).click();
  await page.getByText('Title block', { exact: true }).last().click();
  await page.getByText('Border', { exact: true }).click();
  await expect(page.getByTestId('sheet').locator('[data-role]')).toHaveCount(0);
  await kept(page);

  await page.getByRole('button', { name: /^Sheet 3/ }).click();
  const balloons = await page.getByTestId('sheet').locator('[data-role=balloon]').count();
  await page.getByRole('button', { name: /^Sheet 3/ }).click({ button: 'right' });
  await menuItem(page, 'Duplicate this sheet').click();
  await kept(page);
  await expect(strip(page)).toHaveCount(4);
  await expect(page.getByTestId('sheet').locator('[data-role=balloon]')).toHaveCount(balloons);
  expect(balloons).toBeGreaterThan(0);

  await page.getByRole('button', { name: /^Sheet 4/ }).click({ button: 'right' });
  await menuItem(page, 'Remove this sheet with everything on it').click();
  await kept(page);
  await expect(strip(page)).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await kept(page);
  await expect(strip(page)).toHaveCount(4);
  // By keys: to the sheet before, forward in the set, and off again.
  await page.getByRole('button', { name: /^Sheet 4/ }).click();
  await desk(page).focus();
  await page.keyboard.press('Alt+PageUp');
  await kept(page);
  await expect(page.getByRole('heading', { name: 'Sheet 3 of 4' })).toBeVisible();
  for (let i = 0; i < 2; i++) {
    await page.keyboard.press('Control+z');
    await kept(page);
  }
  await expect(strip(page)).toHaveCount(3);
  expect(broken).toEqual([]);
});

test('three views selected by a window are aligned and spaced; a drag shows a guide', async ({ page }) => {
  const broken = await open(page);
  await sheet(page, 'General arrangement').click();
  await middleOf(page, '[data-role=view]');
  const views = page.getByTestId('sheet').locator('[data-role=view]');
  await expect.poll(() => views.count()).toBeGreaterThan(2);
  const paper = await boxOf(page, '[data-testid=sheet]');
  await drag(page, { x: paper.x + 4, y: paper.y + 4 }, paper.width - 10, paper.height - 10);
  await expect(page.getByRole('heading', { name: /^[3-9] elements/ })).toBeVisible();

  // By keys: everything, then out of the quick bar.
  await page.keyboard.press('Escape');
  await desk(page).focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByRole('heading', { name: /elements/ })).toBeVisible();
  const before = await Promise.all((await views.all()).map((v) => v.boundingBox()));
  await page.getByRole('button', { name: 'Space evenly, side by side' }).click();
  await kept(page);
  await page.keyboard.press('Control+z');
  await kept(page);
  const after = await Promise.all((await views.all()).map((v) => v.boundingBox()));
  after.forEach((b, i) => expect(b!.x).toBeCloseTo(before[i]!.x, 0));

  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: /elements/ })).toHaveCount(0);
  // By name, and placed by numbers.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('select every view');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: `${before.length} elements` })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByTestId('sheet').locator('[data-role=view][aria-label^=Isometric]').focus();
  await page.keyboard.press('Enter');
  const left = page.getByRole('textbox', { name: 'From the left, mm' });
  const was = Number(await left.inputValue());
  await left.fill(String(was + 12.5));
  await left.press('Enter');
  await kept(page);
  await expect(left).toHaveValue(String(Math.round((was + 12.5) * 100) / 100));
  await page.keyboard.press('Escape');
  // A view that stands free is brought under the left edge of another one: a guide shows it.
  const free = page.getByTestId('sheet').locator('[data-role=view][aria-label^=Isometric]');
  const at = await centreOf(free);
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  const target = await boxOf(page, '[data-role=view][aria-label^=Front] path');
  const own = (await free.locator('path').first().boundingBox())!;
  await page.mouse.move(at.x + target.x - own.x - 20, at.y, { steps: 4 });
  let guided = false;
  for (let dx = -6; dx <= 6 && !guided; dx++) {
    await page.mouse.move(at.x + target.x - own.x + dx, at.y);
    guided = (await page.getByTestId('guide').count()) > 0;
  }
  expect(guided).toBe(true);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(page.getByTestId('guide')).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('a right press offers what can be done with a component, a view’s section line, a cell, a field; and does it', async ({ page }) => {
  const broken = await open(page);
  await sheet(page, 'General arrangement').click();
  await middleOf(page, '[data-role=view][aria-label^=Front]');
  // The plate is at its foot.
  const front = await boxOf(page, '[data-role=view][aria-label^=Front]');
  await page.mouse.click(front.x + front.width / 2, front.y + front.height - 3, { button: 'right' });
  await expect(page.getByRole('menu')).toContainText(/Item \d+/);
  await menuItem(page, 'Look of this view').hover();
  await menuItem(page, /^Hidden lines on/).click();
  await kept(page);
  // By keys: the menu of what is selected, walked by letters and arrow keys.
  await page.keyboard.press('Shift+F10');
  await expect(page.getByRole('menu')).toContainText('Look of this view');
  await letter(page, 'l');
  await page.keyboard.press('ArrowRight');
  await expect(menuItem(page, /^Hidden lines off/)).toBeVisible();
  await letter(page, 'h');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(page.getByRole('menu')).toHaveCount(0);

  await sheet(page, 'Exploded').click();
  const list = await boxOf(page, '[data-role=list]');
  await page.mouse.click(list.x + list.width * 0.7, list.y + list.height * 0.3, { button: 'right' });
  await expect(page.getByRole('menu')).toContainText('Edit here: Material of item');
  await menuItem(page, /^Column Material to the left/).click();
  await kept(page);
  await page.keyboard.press('Control+z');
  await kept(page);
  const block = await boxOf(page, '[data-role=title]');
  await page.mouse.click(block.x + block.width - 8, block.y + 6, { button: 'right' });
  await menuItem(page, 'Edit here: Title').click();
  await expect(page.getByRole('textbox', { name: 'Title', exact: true }).first()).toBeFocused();
  await page.keyboard.press('Escape');
  expect(broken).toEqual([]);
});

test('a double press edits a cell of the list and a field of the title block in place; F2 and Tab do so too', async ({ page }) => {
  const broken = await open(page);
  await sheet(page, 'Exploded').click();
  const list = await boxOf(page, '[data-role=list]');
  await page.mouse.dblclick(list.x + list.width * 0.7, list.y + list.height * 0.3);
  const cell = page.locator('input.in-place');
  await expect(cell).toBeFocused();
  const label = (await cell.getAttribute('aria-label'))!;
  expect(label).toMatch(/^Material of item \d$/);
  await cell.fill('EN AW-6082 T6');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(page.locator('[data-role=list]')).toContainText('EN AW-6082 T6');

  const block = await boxOf(page, '[data-role=title]');
  await page.mouse.dblclick(block.x + block.width - 8, block.y + 6);
  await cell.fill('Bracket assembly');
  await page.keyboard.press('Tab');
  // The next field of the block.
  await expect(cell).toHaveAttribute('aria-label', 'Drawn by');
  await page.keyboard.press('Escape');
  await kept(page);
  await expect(page.locator('[data-role=title]')).toContainText('Bracket assembly');

  // By keys alone.
  await desk(page).focus();
  await letter(page, 't');
  await desk(page).focus();
  await page.keyboard.press('F2');
  await expect(cell).toHaveValue('Bracket assembly');
  await page.keyboard.press('Escape');
  await expect(desk(page)).toBeFocused();
  expect(broken).toEqual([]);
});

test('a view is cut, pasted on another sheet, and dragged onto the thumbnail of a third', async ({ page }) => {
  const broken = await open(page);
  await sheet(page, 'General arrangement').click();
  await middleOf(page, '[data-role=view][aria-label^=Isometric]');
  const views = page.getByTestId('sheet').locator('[data-role=view]');
  const before = await views.count();
  await views.locator('xpath=self::*[starts-with(@aria-label,"Isometric")]').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+x');
  await kept(page);
  await expect(views).toHaveCount(before - 1);
  await page.getByRole('button', { name: 'Add a sheet after this one' }).click();
  await kept(page);
  const added = await strip(page)
    .filter({ has: page.locator('xpath=self::*[@aria-current]') })
    .getAttribute('data-sheet');
  await desk(page).focus();
  await page.keyboard.press('Control+v');
  await kept(page);
  await expect(views).toHaveCount(1);
  const from = await middleOf(page, '[data-role=view]');
  const to = await centreOf(sheet(page, 'Exploded'));
  await drag(page, from, to.x - from.x, to.y - from.y);
  await kept(page);
  await expect(page.getByRole('heading', { name: /Isometric/ })).toBeVisible();
  await page.locator(`[data-sheet="${added}"]`).click();
  await expect(views).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('print and files: sheets fitted on paper are counted before they are made, and come as chosen', async ({ page }) => {
  const broken = await open(page);
  await page.keyboard.press('Control+p');
  const dialog = page.getByRole('dialog', { name: 'Print and files' });
  await dialog.getByRole('button', { name: 'tiles' }).click();
  await expect(dialog).toContainText(/\d+ pages · .*(297 × 210|210 × 297) mm/);
  await dialog.getByRole('button', { name: /^sheet 1$/ }).click();
  await dialog.getByLabel('Paper in the printer').selectOption('A3');
  const [pdf] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('link', { name: 'PDF' }).click()]);
  const text = readFileSync((await pdf.path())!).toString('latin1');
  const sizes = [...text.matchAll(/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map((m) => [Number(m[1]), Number(m[2])].map((v) => Math.round((v * 25.4) / 72)));
  expect(sizes.length).toBeGreaterThan(0);
  for (const s of sizes) expect(s.sort((a, b) => a - b)).toEqual([297, 420]);
  await dialog.getByLabel(/pixels per inch/).selectOption('100');
  const [png] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('link', { name: 'PNG' }).click()]);
  expect(
    readFileSync((await png.path())!)
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG');
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  expect(broken).toEqual([]);
});
