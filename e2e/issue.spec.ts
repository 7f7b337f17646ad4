import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { as1Job, errorsOn, kept } from './helpers';

let job = '';
const left = (page: Page) => page.locator('aside.left');
const right = (page: Page) => page.locator('aside.right');

async function open(page: Page): Promise<string[]> {
  const broken = errorsOn(page);
  job ||= (await as1Job(page)).replace(/\/sheets.*/, '');
  await page.goto(`${job}/issue`);
  await expect(right(page).getByRole('heading', { name: /^Issue revision/ })).toBeVisible({ timeout: 30_000 });
  await expect(left(page).getByText('Being looked up …')).toHaveCount(0, { timeout: 30_000 });
  return broken;
}

async function issueIt(page: Page, revision: string): Promise<void> {
  await right(page)
    .getByRole('button', { name: `Issue ${revision} and make the package` })
    .click();
  // Its first line: other words of an issue begin with a B too.
  await expect(left(page).locator('li.issued')).toContainText(`${revision} · `, { timeout: 60_000 });
}

test('revision A goes out with its guide; its package is verified and downloaded', async ({ page }) => {
  const broken = await open(page);
  await expect(left(page).getByText('Nothing was issued yet.')).toBeVisible();
  await right(page).getByLabel('Drawn').fill('A. Drafter');
  await right(page).getByRole('button', { name: 'What is in the package' }).click();
  await right(page).getByLabel('Page that plays it apart, HTML').check();
  await issueIt(page, 'A');
  await left(page).getByTitle('Checks every byte of the package').click();
  await expect(left(page).getByText('verified')).toBeVisible();
  const [download] = await Promise.all([page.waitForEvent('download'), left(page).getByRole('link', { name: 'Package' }).click()]);
  expect(
    readFileSync((await download.path())!)
      .subarray(0, 2)
      .toString(),
  ).toBe('PK');
  expect(broken).toEqual([]);
});

test('what changes afterwards is shown in two inks, gets clouds, and goes out as B; a finding that must be put right stops it until it is accepted', async ({
  page,
}) => {
  const broken = await open(page);
  // A balloon is taken away: that must not leave the office.
  await page.goto(`${job}/sheets`);
  await page.getByTestId('sheet').waitFor();
  await page.keyboard.press('PageDown');
  const balloons = page.getByTestId('sheet').locator('[data-role=balloon]');
  await expect(balloons.first()).toBeVisible({ timeout: 20_000 });
  await balloons.first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await kept(page);
  await page.goto(`${job}/issue`);
  await expect(page.getByTestId('two-inks')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('region', { name: 'Changes of this sheet' })).toContainText('removed');
  await expect(right(page).getByText('1 “must” are open')).toBeVisible({ timeout: 30_000 });
  await expect(right(page).getByRole('button', { name: 'Issue B and make the package' })).toBeDisabled();
  await right(page).getByRole('link', { name: 'See them' }).click();
  const first = page.getByRole('region', { name: 'Findings' }).locator('li[aria-current]');
  await expect(first).toContainText('has no balloon', { timeout: 30_000 });
  await first.getByRole('button', { name: 'Leave it so' }).click();
  await first.getByRole('textbox').fill('Named by a note');
  await first.getByRole('textbox').press('Enter');
  await kept(page);
  // Another one is moved a little, so that there is something to go around.
  await page.goto(`${job}/sheets`);
  await page.getByTestId('sheet').waitFor();
  await page.keyboard.press('PageDown');
  await expect(balloons.first()).toBeVisible({ timeout: 20_000 });
  await balloons.last().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await kept(page);
  await page.goto(`${job}/issue`);
  await expect(page.getByRole('region', { name: 'Changes of this sheet' })).toContainText('moved', { timeout: 30_000 });
  await right(page).getByRole('button', { name: 'Clouds around what changed' }).click();
  await kept(page);
  await expect(right(page).getByText(/“must” are open/)).toHaveCount(0);
  await issueIt(page, 'B');
  await expect(left(page).locator('li.superseded')).toContainText('A');
  const document = (await (await page.request.get(`/api${new URL(job).pathname}/drawing`)).json()) as {
    document: Record<string, { type: string; letter?: string; revision?: string }>;
  };
  const records = Object.values(document.document);
  expect(records.filter((r) => r.type === 'revision').map((r) => r.letter)).toEqual(['A', 'B']);
  expect(records.filter((r) => r.type === 'cloud').every((r) => r.revision === 'B')).toBe(true);
  expect(records.filter((r) => r.type === 'cloud').length).toBeGreaterThan(0);
  // The two frozen ones beside each other.
  const choose = async (label: string, wanted: RegExp) => {
    const select = page.getByRole('combobox', { name: label });
    const names = await select.locator('option').allInnerTexts();
    await select.selectOption({ label: names.find((n) => wanted.test(n))! });
  };
  await choose('Compare from', /^A, /);
  await choose('Compare to', /^B, /);
  await expect(page.getByRole('region', { name: 'Changes of this sheet' })).toContainText(/changes?/, { timeout: 30_000 });
  expect(broken).toEqual([]);
});

test('the guide on a tablet: touched through, without a connection, a remark that comes home and is answered', async ({ browser, page, baseURL }) => {
  const broken = await open(page);
  const href = await left(page).getByRole('link', { name: 'Guide', exact: true }).last().getAttribute('href');
  const tablet = await browser.newContext({ baseURL: baseURL!, viewport: { width: 1180, height: 820 }, hasTouch: true });
  const bench = await tablet.newPage();
  const there = errorsOn(bench);
  await bench.goto(href!);
  await expect(bench.getByRole('heading', { name: 'Kit list' })).toBeVisible();
  await bench.getByRole('button', { name: /Done/ }).tap();
  await expect(bench.getByRole('heading', { name: /^Begin with/ })).toBeVisible();
  await tablet.setOffline(true);
  // The model is in the page: it is turned without a connection too.
  await bench.getByRole('button', { name: /Turn it/ }).tap();
  await expect(bench.locator('.solid canvas')).toBeVisible({ timeout: 20_000 });
  await bench.getByRole('button', { name: 'Picture' }).tap();
  await expect(bench.locator('.solid')).toHaveCount(0);
  await bench.getByRole('button', { name: /Done/ }).tap();
  await expect(bench.getByRole('heading', { level: 2 }).locator('visible=true')).not.toContainText('Begin with');
  await bench.getByRole('button', { name: /Remark/ }).tap();
  await bench.locator('dialog select').selectOption({ index: 1 });
  await bench.locator('dialog textarea').fill('The bracket does not fit');
  await bench.locator('dialog [name=who]').fill('Mo');
  await bench.locator('dialog [name=serial]').fill('0107');
  await bench.locator('dialog button[value=yes]').tap();
  await tablet.setOffline(false);
  await expect
    .poll(async () => ((await (await page.request.get(`/api${new URL(job).pathname}/remarks`)).json()) as { remarks: unknown[] }).remarks.length, {
      timeout: 30_000,
    })
    .toBe(1);
  expect(there.filter((e) => !/ERR_INTERNET_DISCONNECTED|Failed to fetch/.test(e))).toEqual([]);
  await tablet.close();
  await page.goto(`${job}/proof`);
  await expect(page.getByRole('region', { name: 'Findings' })).toContainText('From the bench, Mo', { timeout: 30_000 });
  await page.goto(`${job}/issue`);
  // How far the unit is, as a chart.
  await expect(left(page).getByTestId('units').locator('canvas')).toBeVisible();
  await left(page).getByLabel('Answer to the remark').fill('File the edge');
  await left(page).getByRole('button', { name: 'Answer', exact: true }).click();
  await expect(left(page).getByText('Answered: File the edge')).toBeVisible();
  await page.goto(`${job}/proof`);
  await expect(page.getByRole('region', { name: 'Findings' }).getByRole('heading', { name: /must, \d+ should/ })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('region', { name: 'Findings' })).not.toContainText('From the bench');
  expect(broken).toEqual([]);
});

test('steps of the guide are moved, joined and taken apart, each checked again; a code on the sheet leads to the guide of the issue', async ({ page }) => {
  const broken = await open(page);
  await page.getByRole('button', { name: 'Build guide' }).click();
  const steps = page.locator('.guide li');
  await expect(steps.first()).toBeVisible({ timeout: 30_000 });
  const texts = () => steps.locator('.head span').allInnerTexts();
  const before = await texts();
  // The last step but one goes last.
  const at = steps.nth(before.length - 2);
  await at.locator('.head').click();
  await at.getByRole('button', { name: 'Later' }).click();
  await kept(page);
  await expect.poll(async () => (await texts()).at(-1), { timeout: 30_000 }).toBe(before.at(-2));
  await page.getByRole('button', { name: 'As planned' }).click();
  await kept(page);
  await expect.poll(texts, { timeout: 30_000 }).toEqual(before);
  await page.goto(`${job}/sheets`);
  await page.getByTestId('sheet').waitFor();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('QR code');
  await page.keyboard.press('Enter');
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role=code]')).toHaveCount(1);
  await page.goto(`${job}/issue`);
  await expect(left(page).locator('li.issued')).toBeVisible({ timeout: 30_000 });
  const heading = await right(page)
    .getByRole('heading', { name: /^Issue revision/ })
    .innerText();
  await issueIt(page, heading.split(' ').at(-1)!);
  const href = await left(page).locator('li.issued').getByRole('link', { name: 'Guide', exact: true }).getAttribute('href');
  const document = (await (await page.request.get(`/api${new URL(job).pathname}/drawing`)).json()) as { document: { drawing: { guide?: string } } };
  expect(document.document.drawing.guide).toBe(new URL(href!, page.url()).href);
  expect(broken).toEqual([]);
});
