import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { AS1, as1Job, drawnJob, dropFile, errorsOn, kept } from './helpers';

const dialog = (page: Page) => page.getByRole('dialog', { name: 'Recipes' });
const sheets = (page: Page) => page.getByRole('button', { name: /^Sheet \d/ });

test('part sheets come by a recipe, one undo takes them away; the set is kept under a name and removed', async ({ page }) => {
  const broken = errorsOn(page);
  await as1Job(page);
  await expect(sheets(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Recipes' }).click();
  const preview = dialog(page).getByRole('region', { name: 'Sheets that would come' });
  await expect(preview).toContainText('Part: l-bracket');
  await expect(preview).toContainText('stands already');
  await dialog(page).getByRole('button', { name: 'Make 3 sheets' }).click();
  await expect(page.getByText('3 sheets came.')).toBeVisible({ timeout: 60_000 });
  await expect(dialog(page).getByRole('button', { name: /^Make 0 sheets/ })).toBeDisabled();
  await dialog(page).getByLabel('Keep the sheets of this drawing as').fill('House set');
  await dialog(page).getByRole('button', { name: 'Keep as recipe' }).click();
  await expect(dialog(page).getByRole('button', { name: /^House set/ })).toHaveAttribute('aria-pressed', 'true');
  await dialog(page).getByRole('button', { name: 'Close' }).click();

  await expect(sheets(page)).toHaveCount(5);
  await sheets(page).nth(3).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet.locator('[data-role=title]')).toContainText('l-bracket');
  await expect(sheet.locator('[data-role=view] path').first()).toBeAttached({ timeout: 30_000 });
  expect(await sheet.locator('[data-role=dimension]').count()).toBeGreaterThan(6);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await kept(page);
  await expect(sheets(page)).toHaveCount(2);

  // Dropped with the recipe that was kept, the sheets are there at once.
  await page.goto('/');
  await page.getByLabel('Recipe').selectOption('House set');
  await dropFile(page, 'as1-house.stp', readFileSync(AS1));
  await drawnJob(page);
  await expect(sheets(page)).toHaveCount(5);
  await page.getByRole('button', { name: 'Recipes' }).click();
  await dialog(page)
    .getByRole('button', { name: /^House set/ })
    .click();
  await dialog(page).getByRole('button', { name: 'Remove' }).click();
  await expect(dialog(page).getByRole('button', { name: /^House set/ })).toHaveCount(0);
  expect(broken).toEqual([]);
});

test('what a model has nothing for is left out, and said', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Recipe').selectOption('Bent plates');
  await dropFile(page, 'as1-bent.stp', readFileSync(AS1));
  await drawnJob(page);
  await page.getByRole('button', { name: 'Recipes' }).click();
  await dialog(page)
    .getByRole('button', { name: /^Bench set/ })
    .click();
  await expect(dialog(page).getByRole('region', { name: 'Sheets that would come' })).toContainText('rod-assembly');
});

test('the worked example of the HTTP interface: drop, recipe, wait, PDF, list and findings', async ({ page, baseURL }) => {
  const out = mkdtempSync(join(tmpdir(), 'q-draw-'));
  const run = spawnSync('node', ['docs/examples/draw.mjs', baseURL!, AS1, 'Bent plates', out], { encoding: 'utf8', timeout: 90_000 });
  expect(run.stderr).toBe('');
  expect(run.stdout).toContain('Left out: Bent plate: {subject}');
  expect(readFileSync(join(out, 'drawing.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
  expect(readFileSync(join(out, 'parts-list.csv'), 'utf8')).toContain('l-bracket');
  expect(Array.isArray(JSON.parse(readFileSync(join(out, 'findings.json'), 'utf8')))).toBe(true);
  // The page to be read says the same as the description.
  await page.goto('/api-reference');
  await expect(page.getByText('Makes the sheets of a recipe.')).toBeVisible();
});

test('a recipe is changed in its sheets, conditions and slots; what it would make is seen on this job', async ({ page }) => {
  const broken = errorsOn(page);
  page.setDefaultTimeout(20_000);
  await as1Job(page);
  await page.getByRole('button', { name: 'Recipes' }).click();
  await dialog(page)
    .getByRole('button', { name: /^Arrangement with part sheets/ })
    .click();
  await dialog(page).getByRole('button', { name: 'Change …' }).click();
  const editor = dialog(page).getByRole('region', { name: 'The recipe' });
  await expect(editor.getByLabel('Name', { exact: true })).toHaveValue('Arrangement with part sheets, own');
  await editor.getByLabel('Name', { exact: true }).fill('Workshop');
  const third = editor.getByRole('group', { name: 'Sheet 3' });
  await third.getByLabel('At least, mm').fill('60');
  await third.getByLabel('Small ones').selectOption('up to 4 on a sheet');
  await third.getByLabel('Add a slot to sheet 3').selectOption('Table of holes');
  await expect(third.getByText('Holes', { exact: true })).toBeVisible();
  await dialog(page).getByRole('button', { name: 'Keep this recipe' }).click();
  await expect(dialog(page).getByRole('button', { name: /^Workshop/ })).toHaveAttribute('aria-pressed', 'true');
  const preview = dialog(page).getByRole('region', { name: 'Sheets that would come' });
  // The nuts and the bolts are shorter than 60 mm.
  await expect(preview).toContainText('Part: plate');
  await expect(preview).not.toContainText('Part: nut');
  await dialog(page)
    .getByRole('button', { name: /^Make \d sheet/ })
    .click();
  await expect(page.getByText(/sheets? came\./)).toBeVisible({ timeout: 60_000 });
  await dialog(page).getByRole('button', { name: 'Close' }).click();
  await sheets(page).nth(2).click();
  await expect(page.getByTestId('sheet').locator('[data-role=view] path').first()).toBeAttached({ timeout: 30_000 });

  // One from nothing.
  await page.getByRole('button', { name: 'Recipes' }).click();
  await dialog(page).getByRole('button', { name: 'New …' }).click();
  await editor.getByLabel('Name of sheet 1').fill('Whole');
  await editor.getByLabel('One for').selectOption('the whole');
  await dialog(page).getByRole('button', { name: 'Keep this recipe' }).click();
  await expect(dialog(page).getByRole('button', { name: /^New recipe, own/ })).toHaveAttribute('aria-pressed', 'true');
  for (const name of ['New recipe, own', 'Workshop']) {
    await dialog(page)
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .click();
    await dialog(page).getByRole('button', { name: 'Remove' }).click();
    await expect(dialog(page).getByRole('button', { name: new RegExp(`^${name}`) })).toHaveCount(0);
  }
  expect(broken).toEqual([]);
});

test('a bent part: its flat pattern is dimensioned beside its table of bends, follows a K that is typed, and is taken away 1:1', async ({ page }) => {
  const broken = errorsOn(page);
  page.setDefaultTimeout(20_000);
  await page.goto('/');
  await page.getByLabel('Recipe').selectOption('Bent plates');
  await dropFile(page, 'gb-7.step', readFileSync('demo/gb-7.step'));
  await drawnJob(page);
  await page.getByRole('button', { name: 'Sheet 4: Bent plate: Angle, shelf' }).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet.locator('[data-role=table]')).toContainText('Inner radius');
  // Legs of 84 and 34, a bend of R3 in plate of 3: by hand, K 0.325 by DIN 6935.
  const length = (k: number) => String(Math.round((84 + 34 + (Math.PI / 2) * (3 + 3 * k)) * 100) / 100);
  const dimensions = sheet.locator('[data-role=dimension]');
  await expect(dimensions.filter({ hasText: length(0.325) })).toHaveCount(1, { timeout: 30_000 });
  await page.locator('[data-part="Shelf angle"]').click();
  await page.getByLabel('K, share of the thickness').fill('0.5');
  await page.keyboard.press('Enter');
  await expect(dimensions.filter({ hasText: length(0.5) })).toHaveCount(1, { timeout: 30_000 });
  const file = page.waitForEvent('download');
  await page.getByRole('link', { name: 'SVG', exact: true }).click();
  expect(readFileSync(await (await file).path(), 'utf8')).toContain('id="bend-lines"');
  expect(broken).toEqual([]);
});
