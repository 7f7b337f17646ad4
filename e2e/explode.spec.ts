import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';

// as1-oc-214 of the CAx-IF rounds, from the npm package occt-import-js.
const FILE = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if/as1-oc-214.stp');

test('an exploded view: plan, drag, type, see a collision named, tighten, see it on the sheet', async ({ page, request }) => {
  test.setTimeout(180_000);
  const created = await request.post('/api/jobs', { multipart: { file: { name: 'exploded.stp', mimeType: 'model/step', buffer: readFileSync(FILE) } } });
  const { id } = (await created.json()) as { id: string };
  await expect.poll(async () => ((await (await request.get(`/api/jobs/${id}`)).json()) as { state: string }).state, { timeout: 120_000 }).toBe('ready');

  await page.goto(`/jobs/${id}/explode`);
  const pulls = page.getByRole('region', { name: 'Pulls' });
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 30_000 });
  const first = Number(await pulls.getByLabel(/of pull 1,/).inputValue());
  expect(first).toBeGreaterThan(0);

  // A typed expression.
  await pulls.getByLabel(/of pull 1,/).fill('2*60');
  await pulls.getByLabel(/of pull 1,/).press('Enter');
  await expect(pulls.getByLabel(/of pull 1,/)).toHaveValue('120');
  await pulls.getByLabel(/of pull 1,/).fill('far');
  await pulls.getByLabel(/of pull 1,/).press('Enter');
  await expect(page.getByText('“far” is no length.', { exact: false }).first()).toBeVisible();
  await expect(pulls.getByLabel(/of pull 1,/)).toHaveValue('120');

  // The handle drags the distance.
  await pulls.locator('[data-pull="0"]').click();
  const handle = page.getByTestId('pull-handle');
  await expect(handle).toBeVisible({ timeout: 30_000 });
  const from = (await handle.boundingBox())!;
  await handle.focus();
  await page.keyboard.press('ArrowRight');
  await expect(pulls.getByLabel(/of pull 1,/)).toHaveValue('121');
  const [x, y] = [from.x + from.width / 2, from.y + from.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 60, y + 60, { steps: 6 });
  await page.mouse.move(x + 5, y - 90, { steps: 6 });
  await page.mouse.up();
  await expect(pulls.getByLabel(/of pull 1,/)).not.toHaveValue('121');

  // The wrong way: what it passes through is named, in the list and in the slip.
  const bolts = pulls.locator('li', { hasText: 'bolt' }).first().locator('[data-pull]');
  await bolts.click();
  await page.getByRole('group', { name: 'Direction' }).getByRole('button', { name: '+X' }).click();
  await expect(page.getByText(/bolt passes through .* from .* mm\./).first()).toBeVisible({ timeout: 20_000 });
  await expect(pulls.getByText(/passes through/).first()).toBeVisible();
  await page.getByRole('group', { name: 'Direction' }).getByRole('button', { name: '+Z' }).click();
  await expect(page.getByText('Clear: nothing is passed through.')).toBeVisible({ timeout: 20_000 });

  // A pull taken away is planned again.
  const count = await pulls.locator('[data-pull]').count();
  await page.keyboard.press('Delete');
  await expect(pulls.locator('[data-pull]')).toHaveCount(count - 1);
  await page.keyboard.press('r');
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 60_000 });

  await page.keyboard.press('t');
  await expect(page.getByText(/parts [\d.]+ mm apart on paper/).first()).toBeVisible({ timeout: 60_000 });

  // Playing ends with everything together, by key.
  await page.keyboard.press(' ');
  await expect(page.getByRole('region', { name: 'Play apart and together' }).getByText('together', { exact: true })).toBeVisible({ timeout: 30_000 });

  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByRole('button', { name: /^Sheet 3/ }).click();
  await expect(page.getByText('All changes kept')).toBeVisible();
  await expect(page.getByText(/being drawn anew/)).toHaveCount(0, { timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
});
