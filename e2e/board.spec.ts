import { expect, test, type Page } from '@playwright/test';
import { as1Job, errorsOn, kept, letter, middleOf } from './helpers';

// As people have it: with scrollbars, in windows of two sizes.
test.use({
  launchOptions: {
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
    ignoreDefaultArgs: ['--hide-scrollbars'],
  },
});

let job = '';
const slip = (page: Page) => page.locator('aside.right');
const front = '[data-role=view][aria-label^=Front]';
async function open(page: Page): Promise<string[]> {
  const broken = errorsOn(page);
  job ||= (await as1Job(page)).replace(/\/sheets.*/, '');
  await page.goto(`${job}/sheets`);
  await page.getByRole('button', { name: /^Sheet 1/ }).click();
  await middleOf(page, front);
  return broken;
}

for (const [width, height] of [
  [1280, 800],
  [1024, 700],
] as const)
  test(`no stage has a page scrollbar at ${width} × ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await open(page);
    for (const stage of ['model', 'explode', 'sheets', 'proof', 'issue']) {
      await page.goto(`${job}/${stage}`);
      await page.getByRole('navigation', { name: 'Stages' }).waitFor();
      const over = () => page.evaluate(() => [document.documentElement.scrollWidth - innerWidth, document.documentElement.scrollHeight - innerHeight]);
      expect(await over(), stage).toEqual([0, 0]);
    }
  });

test('the zoom and the middle of the paper stay when the window changes', async ({ page }) => {
  await open(page);
  const middle = await middleOf(page, front);
  await page.mouse.move(middle.x, middle.y);
  for (let n = 0; n < 6; n++) await page.mouse.wheel(0, -200);
  const box = async () => (await page.getByTestId('sheet').boundingBox())!;
  const before = await box();
  await page.setViewportSize({ width: 1290, height: 790 });
  await expect.poll(async () => (await box()).x).not.toBe(before.x);
  const after = await box();
  expect(after.width).toBeCloseTo(before.width, 0);
  expect(after.x - before.x).toBeCloseTo(5, 0);
  expect(after.y - before.y).toBeCloseTo(-5, 0);
});

test('the menu of a component stands in the window, also in a low one, and scrolls by wheel', async ({ page }) => {
  await open(page);
  await page.setViewportSize({ width: 1280, height: 460 });
  await page.keyboard.press('f');
  await page.waitForTimeout(400);
  const at = await middleOf(page, front);
  await page.mouse.click(at.x, at.y, { button: 'right' });
  const menu = page.getByRole('menu').first();
  await expect(menu).toBeVisible();
  const b = (await menu.boundingBox())!;
  expect(b.y).toBeGreaterThanOrEqual(0);
  expect(b.y + b.height).toBeLessThanOrEqual(460);
  expect(b.x + b.width).toBeLessThanOrEqual(1280);
  await page.keyboard.press('End');
  await expect(page.getByRole('menuitem').last()).toBeInViewport();
  await page.keyboard.press('Escape');
});

test('a word that goes astray runs nothing; a letter from a switch does', async ({ page }) => {
  const broken = await open(page);
  const drawing = async () => (await (await page.request.get(`${job.replace('/jobs', '/api/jobs')}/drawing`)).json()) as { version: number };
  const { version } = await drawing();
  const at = await middleOf(page, front);
  await page.mouse.click(at.x, at.y);
  // All in one go: however busy the machine is, they come within 200 ms.
  await page.evaluate((word) => {
    for (const key of word) document.activeElement!.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  }, 'Shaft housing');
  await page.waitForTimeout(900);
  await kept(page);
  expect((await drawing()).version).toBe(version);
  await slip(page)
    .getByRole('checkbox', { name: 'Hidden lines' })
    .or(slip(page).getByRole('switch', { name: 'Hidden lines' }))
    .first()
    .focus();
  await letter(page, 'w');
  await expect(slip(page).getByRole('heading', { name: 'Place a view' })).toBeVisible();
  await page.keyboard.press('Escape');
  expect(broken).toEqual([]);
});

test('what the frame shows is what keys act on, and the slip is of the sheet that is shown', async ({ page }) => {
  const broken = await open(page);
  const at = await middleOf(page, front);
  await page.mouse.click(at.x, at.y);
  await expect(slip(page).getByRole('heading', { name: 'Front' })).toBeVisible();
  await page.keyboard.press('Delete');
  await expect(page.locator(front)).toHaveCount(0);
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await expect(slip(page).getByRole('heading', { name: /^Sheet 2 of/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await kept(page);
  await page.getByRole('button', { name: /^Sheet 1/ }).click();
  await expect(slip(page).getByRole('heading', { name: /^Sheet 1 of/ })).toBeVisible();
  await expect(page.locator(front)).toHaveCount(1);
  expect(broken).toEqual([]);
});

test('an issue goes on being made when its page is left; its progress is told in the path across the top', async ({ page }) => {
  const broken = await open(page);
  await page.goto(`${job}/issue`);
  const make = page.getByRole('button', { name: /and make the package/ });
  await expect(make).toBeEnabled({ timeout: 30_000 });
  await make.click();
  await page
    .getByRole('link', { name: /^Issue/ })
    .getByRole('status')
    .waitFor();
  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByTestId('sheet').waitFor();
  await expect(page.getByText(/is issued and frozen/)).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('button', { name: 'Stop making the issue' })).toHaveCount(0);
  expect(broken).toEqual([]);
});
