import { readFileSync } from 'node:fs';
import { encode } from 'fast-png';
import { expect, test, type Page } from '@playwright/test';
import { AS1, as1Job, drawnJob, dropFile, errorsOn, kept, letter } from './helpers';

const formats = (page: Page) => page.getByRole('dialog', { name: 'Sheet formats' });
const sheets = (page: Page) => page.getByRole('button', { name: /^Sheet \d/ });
const title = (page: Page) => page.getByTestId('sheet').locator('[data-role=title]');
const slip = (page: Page) => page.getByRole('region', { name: 'Slip' });
const cells = (page: Page) => page.getByRole('group', { name: 'Cells' });

/** A logo: dark, 40 by 20 pixels. */
const LOGO = Buffer.from(encode({ width: 40, height: 20, channels: 3, data: new Uint8Array(40 * 20 * 3).fill(40) }));

/** Puts a logo onto the canvas that is open, in the upper left corner of its frame. */
async function putLogo(page: Page): Promise<void> {
  const chosen = page.waitForEvent('filechooser');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Do anything' }).fill('Picture from a PNG');
  await page.keyboard.press('Enter');
  await (await chosen).setFiles({ name: 'logo.png', mimeType: 'image/png', buffer: LOGO });
  await expect(page.getByTestId('sheet').locator('[data-role=picture]')).toHaveCount(1);
}

test('a format with a logo and a field of one’s own is made, kept, used at a drop, changed; its sheets follow or stay', async ({ page }) => {
  test.setTimeout(240_000);
  page.setDefaultTimeout(20_000);
  const broken = errorsOn(page);
  await as1Job(page);
  const first = page.url();

  // What comes with the application is not changed: a copy is, and all sheets lie on it.
  await page.getByRole('button', { name: 'Change …' }).click();
  await expect(page.getByText('Sheet format “ISO title block, own”')).toBeVisible();
  await expect(page.getByText('2 sheets follow.')).toBeVisible();
  await page.getByLabel('Name', { exact: true }).fill('House A3');
  await page.keyboard.press('Enter');
  await page.getByLabel('Filing edge, mm').fill('25');
  await page.keyboard.press('Enter');
  await putLogo(page);

  // A cell is split in two, and the new one shows a field of one's own.
  await title(page).focus();
  await page.keyboard.press('Enter');
  await cells(page).getByRole('button', { name: 'Document type' }).click();
  await page.getByRole('button', { name: 'Split', exact: true }).first().click();
  await cells(page).getByRole('button', { name: 'Cell 6' }).click();
  await page.getByLabel('Says of itself').fill('Project');
  await page.keyboard.press('Enter');
  await page.getByLabel('Text: fields stand in braces').fill('{project}');
  await page.keyboard.press('Tab');
  await expect(cells(page).getByRole('button', { name: 'Project' })).toBeVisible();

  // On the sheets the cell is pressed, and says where its value comes from.
  await page.getByRole('button', { name: 'Back to the sheets' }).first().click();
  await expect(page.getByTestId('sheet').locator('[data-role=picture]')).toHaveCount(1);
  await letter(page, 't');
  await page.getByLabel('project', { exact: true }).fill('P-114');
  await page.keyboard.press('Enter');
  await expect(title(page)).toContainText('P-114');
  await title(page).getByText('P-114').click();
  await page
    .getByLabel('project', { exact: true })
    .locator('xpath=ancestor::div[contains(@class,"field")]')
    .getByRole('button', { name: 'Where this comes from' })
    .click();
  await expect(page.getByText('a field of your own, the same on every sheet')).toBeVisible();
  await page.keyboard.press('Escape');

  // Kept, it is there for every job; so is a recipe of sheets that lie on it.
  await page.getByRole('button', { name: 'Sheet formats' }).click();
  await formats(page).getByRole('button', { name: 'Keep it for all jobs' }).click();
  await expect(formats(page).getByRole('button', { name: /^House A3/ })).toContainText('yours');
  await formats(page).getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Recipes' }).click();
  const recipes = page.getByRole('dialog', { name: 'Recipes' });
  await recipes.getByLabel('Keep the sheets of this drawing as').fill('House drawing');
  await recipes.getByRole('button', { name: 'Keep as recipe' }).click();
  await expect(recipes.getByRole('button', { name: /^House drawing/ })).toBeVisible();
  await kept(page);

  // A drop that asks for the format alone, with the usual recipe.
  await page.goto('/');
  await page.getByLabel('Format').selectOption('House A3');
  await dropFile(page, 'as1-format.stp', readFileSync(AS1));
  await drawnJob(page);
  const second = page.url();
  for (const i of [0, 1]) {
    await sheets(page).nth(i).click();
    await expect(title(page)).toContainText('Project');
    await expect(page.getByTestId('sheet').locator('[data-role=picture]')).toHaveCount(1);
  }
  // And one by the recipe: the format comes with it.
  await page.goto('/');
  await page.getByLabel('Recipe').selectOption('House drawing');
  await dropFile(page, 'as1-both.stp', readFileSync(AS1));
  await drawnJob(page);
  await expect(title(page)).toContainText('Project');

  // Changed in the first job, its own sheets follow at once.
  await page.goto(first);
  await page.getByRole('button', { name: 'Change …' }).click();
  await title(page).focus();
  await page.keyboard.press('Enter');
  await cells(page).getByRole('button', { name: 'Project' }).click();
  await page.getByLabel('Says of itself').fill('Contract');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Keep, put on sheets …' }).first().click();
  await formats(page).getByRole('button', { name: 'Keep as the next version' }).click();
  await expect(formats(page).getByRole('button', { name: /^House A3/ })).toContainText('version 2');
  await formats(page).getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Back to the sheets' }).first().click();
  await expect(title(page)).toContainText('Contract');
  await kept(page);

  // Another job is asked: its sheets follow when it says so.
  await page.goto(second);
  await expect(title(page)).toContainText('Project');
  await page.getByRole('button', { name: 'Sheet formats' }).click();
  await expect(formats(page).getByText('Version 2 was kept; the sheets of this drawing lie on version 1.')).toBeVisible();
  await formats(page).getByRole('button', { name: 'Let them follow' }).click();
  await expect(formats(page).getByText('Version 2 was kept')).toHaveCount(0);
  await formats(page).getByRole('button', { name: 'Close' }).click();
  await expect(title(page)).toContainText('Contract');
  expect(broken).toEqual([]);
});

test('sheets go on a format and off it again; sizes of one’s own, a title page, one undo each', async ({ page }) => {
  const broken = errorsOn(page);
  await as1Job(page);
  await page.getByRole('button', { name: 'Sheet formats' }).click();
  await formats(page)
    .getByRole('button', { name: /^ISO folded/ })
    .click();
  await formats(page).getByRole('button', { name: 'Put one sheet on it' }).click();
  await expect(slip(page).getByText('ISO folded', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(slip(page).getByText('ISO title block', { exact: true })).toBeVisible();

  await page.getByLabel('Size', { exact: true }).selectOption('a size of your own');
  await page.getByLabel('Longer side, mm').fill('600');
  await page.keyboard.press('Enter');
  await expect(title(page)).toContainText('600×297');
  await page.keyboard.press('Control+z');

  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: 'Do anything' }).fill('Add a title page');
  await page.keyboard.press('Enter');
  await expect(sheets(page)).toHaveCount(3);
  await expect(page.getByTestId('sheet').locator('[data-role=block]')).toContainText('3 sheets');
  await expect(title(page)).toHaveCount(0);
  await kept(page);
  await page.keyboard.press('Control+z');
  await expect(sheets(page)).toHaveCount(2);
  expect(broken).toEqual([]);
});

test('a file that is no format is refused with a sentence', async ({ page }) => {
  await as1Job(page);
  await page.getByRole('button', { name: 'Sheet formats' }).click();
  await formats(page)
    .getByLabel('Sheet format file')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{"format":1}') });
  await expect(page.getByText(/name.*expected/i)).toBeVisible();
});
