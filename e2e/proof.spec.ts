import { expect, test, type Page } from '@playwright/test';
import { as1Job, errorsOn, kept, letter } from './helpers';

let job = '';
const findings = (page: Page) => page.getByRole('region', { name: 'Findings' });

async function open(page: Page): Promise<string[]> {
  const broken = errorsOn(page);
  job ||= (await as1Job(page)).replace(/\/sheets.*/, '');
  await page.goto(`${job}/proof`);
  await expect(findings(page).getByRole('heading', { name: /must, \d+ should/ })).toBeVisible({ timeout: 30_000 });
  await expect(findings(page).getByText(/views are on their way/)).toHaveCount(0, { timeout: 30_000 });
  return broken;
}

test('the first drawing has nothing that must be put right; the heat map opens a view with the item lit', async ({ page }) => {
  const broken = await open(page);
  await expect(findings(page).getByRole('heading', { name: /^0 must/ })).toBeVisible();
  const map = page.getByTestId('coverage');
  await expect(map.locator('canvas').first()).toBeVisible();
  const box = (await map.boundingBox())!;
  // Second column, first row.
  await page.mouse.click(box.x + 210 + ((box.width - 220) / 6) * 1.5, box.y + 30 + 12);
  await page.waitForURL(/\/sheets/);
  await expect(page.getByRole('region', { name: 'Slip' }).getByRole('heading').first()).not.toContainText('Sheet');
  expect(broken).toEqual([]);
});

test('ways to show an item are looked for, pictured, and added in one press', async ({ page }) => {
  const broken = await open(page);
  const map = page.getByTestId('coverage');
  const box = (await map.boundingBox())!;
  // The name of the first row.
  await page.mouse.click(box.x + 40, box.y + 30 + 12);
  const ways = page.getByTestId('cures');
  await expect(ways.getByRole('heading', { name: /^Ways to show \d/ })).toBeVisible();
  await expect(ways.getByRole('button', { name: 'Add it' }).nth(1)).toBeVisible({ timeout: 60_000 });
  await expect(ways.locator('li').first()).toContainText(/mm² at .* % of its outline/);
  const api = `/api${new URL(job).pathname}`;
  const views = async () => {
    const { document } = (await (await page.request.get(`${api}/drawing`)).json()) as { document: Record<string, { type: string; id: string }> };
    return Object.values(document).flatMap((r) => (r.type === 'view' ? [r.id] : []));
  };
  const before = await views();
  await ways.getByRole('button', { name: 'Add it' }).first().click();
  await kept(page);
  await expect(ways).toHaveCount(0);
  const [added, ...more] = (await views()).filter((v) => !before.includes(v));
  expect(more).toEqual([]);
  // What it shows is there before it is taken back.
  await expect.poll(async () => (await page.request.get(`${api}/views/${encodeURIComponent(added!)}`)).status(), { timeout: 30_000 }).toBe(200);
  await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  expect(await views()).toEqual(before);
  expect(broken).toEqual([]);
});

test('a balloon that is removed is found, put right in one press, and that is one step of undo', async ({ page }) => {
  const broken = await open(page);
  // Taken away on its sheet.
  await page.goto(`${job}/sheets`);
  await page.getByTestId('sheet').waitFor();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  const balloons = page.getByTestId('sheet').locator('[data-role=balloon]');
  await expect(balloons.first()).toBeVisible({ timeout: 20_000 });
  const count = await balloons.count();
  await balloons.first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await kept(page);
  await expect(balloons).toHaveCount(count - 1);
  // The ledger says it beside the item.
  await expect(page.getByRole('list', { name: 'Items' })).toContainText('1 must: ', { timeout: 30_000 });
  await page.getByRole('link', { name: /^Proof/ }).click();
  const first = findings(page).locator('li[aria-current]');
  await expect(first).toContainText('has no balloon', { timeout: 30_000 });
  await expect(page.getByRole('link', { name: /1 must/ })).toBeVisible();
  await first.getByRole('button', { name: 'Give it a balloon' }).click();
  await kept(page);
  await expect(findings(page).getByRole('heading', { name: /^0 must/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(findings(page).getByRole('heading', { name: /^1 must/ })).toBeVisible();
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(findings(page).getByRole('heading', { name: /^0 must/ })).toBeVisible();
  expect(broken).toEqual([]);
});

test('findings are gone through with a key, left so with a reason, reopened; points are switched off', async ({ page }) => {
  const broken = await open(page);
  const at = findings(page).locator('li[aria-current]');
  const before = await at.innerText();
  await letter(page, 'n');
  await expect(at).not.toHaveText(before);
  const text = (await at.getByRole('button').first().innerText()).trim();
  await letter(page, 'l');
  await findings(page).getByLabel('Why it may stay so').fill('Agreed with the shop');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(findings(page).locator('ol').getByText(text, { exact: true })).toHaveCount(0);
  await findings(page).getByRole('button', { name: 'Left so' }).click();
  await expect(findings(page).getByText('“Agreed with the shop”')).toBeVisible();
  await findings(page).getByRole('button', { name: 'Reopen' }).click();
  await kept(page);
  await expect(findings(page).locator('ol').getByText(text, { exact: true })).toHaveCount(1);
  await findings(page).getByRole('button', { name: 'What is checked' }).click();
  await findings(page).getByLabel('The list has what each source asks for').selectOption('off');
  await kept(page);
  await expect(findings(page).getByText(/drawing number missing/)).toHaveCount(0);
  await findings(page).getByLabel('The list has what each source asks for').selectOption('must');
  await kept(page);
  await expect(findings(page).getByRole('heading', { name: /^[1-9]\d* must/ })).toBeVisible();
  expect(broken).toEqual([]);
});

test('a row of one’s own stands in the ledger and in the list, and is removed', async ({ page }) => {
  const broken = await open(page);
  await page.goto(`${job}/sheets`);
  await page.getByTestId('sheet').waitFor();
  await page.getByRole('button', { name: /^Do anything/ }).click();
  await page.keyboard.type('row of your own');
  await page.keyboard.press('Enter');
  await kept(page);
  const slip = page.getByRole('region', { name: 'Slip' });
  await slip.getByLabel(/^Description/).fill('Grease, bearing');
  await slip.getByLabel(/^Description/).press('Enter');
  await slip.getByLabel('Quantity, as it is written').fill('0.2');
  await slip.getByLabel('Quantity, as it is written').press('Enter');
  await kept(page);
  await expect(page.getByRole('button', { name: /Grease, bearing/ })).toBeVisible();
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  await expect(page.getByTestId('sheet').locator('[data-role=list]').getByText('Grease, bearing')).toBeVisible();
  await slip.getByRole('button', { name: 'Remove this row' }).click();
  await kept(page);
  await expect(page.getByRole('button', { name: /Grease, bearing/ })).toHaveCount(0);
  expect(broken).toEqual([]);
});
