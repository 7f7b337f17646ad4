import { AxeBuilder } from '@axe-core/playwright';
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { AS1, drawnJob, dropFile } from './helpers';

/** WCAG 2.2, levels A and AA. */
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];

async function faults(page: Page): Promise<string[]> {
  const { violations, passes } = await new AxeBuilder({ page })
    .options({ runOnly: { type: 'tag', values: RULES }, rules: { 'label-content-name-mismatch': { enabled: true } } })
    .analyze();
  // It did look: colours are among what it found right.
  expect(passes.map((p) => p.id)).toContain('color-contrast');
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')} ${n.failureSummary?.split('\n')[1]?.trim() ?? ''}`));
}

const VIEWS: readonly (readonly [string, (page: Page) => Promise<void>])[] = [
  ['start', async (page) => void (await page.goto('/'))],
  [
    'model',
    async (page) => {
      await page.getByRole('link', { name: 'Model', exact: true }).click();
      await page.getByRole('gridcell').nth(1).click();
    },
  ],
  [
    'explode',
    async (page) => {
      await page.getByRole('link', { name: 'Explode', exact: true }).click();
      await expect(page.getByTestId('explode-view')).toBeVisible();
      await page.getByRole('button', { name: /^1 / }).first().click();
    },
  ],
  [
    'sheets',
    async (page) => {
      await page.getByRole('link', { name: 'Sheets', exact: true }).click();
      await expect(page.getByTestId('sheet').locator('[data-role=view] path').first()).toBeAttached({ timeout: 30_000 });
    },
  ],
  [
    'sheets, an item',
    async (page) => {
      await page.locator('[data-part]').first().click();
      await expect(page.getByRole('textbox', { name: /Description/ })).toBeVisible();
    },
  ],
  [
    'sheets, a view and its menu',
    async (page) => {
      await page.keyboard.press('Escape');
      await page.getByRole('application').focus();
      await page.keyboard.press('Control+a');
      await page.keyboard.press('Shift+F10');
      await expect(page.getByRole('menu')).toBeVisible();
    },
  ],
  [
    'the quick bar',
    async (page) => {
      await page.keyboard.press('Escape');
      await page.keyboard.press('Control+k');
      await expect(page.getByPlaceholder('What do you want to do?')).toBeFocused();
    },
  ],
];

for (const theme of ['light', 'dark'] as const)
  test(`nothing on a main view stands in anyone’s way, ${theme} theme`, async ({ page }) => {
    await page.addInitScript((t) => localStorage.setItem('theme', t), theme);
    await page.goto('/');
    await dropFile(page, 'as1.stp', readFileSync(AS1));
    const job = await drawnJob(page);
    const found: Record<string, string[]> = {};
    for (const [name, go] of VIEWS) {
      if (name === 'model') await page.goto(job);
      await go(page);
      found[name] = await faults(page);
    }
    expect(found).toEqual(Object.fromEntries(VIEWS.map(([name]) => [name, []])));
  });
