import { readFileSync } from 'node:fs';
import { expect, test, type APIRequestContext, type Page } from '@playwright/test';
import { AS1, letter } from './helpers';

// as1-oc-214 of the CAx-IF rounds, from the npm package occt-import-js.
const FILE = AS1;

/** What was done to a drawing, in order. */
async function labelsOf(request: APIRequestContext, id: string): Promise<string[]> {
  const { changes } = (await (await request.get(`/api/jobs/${id}/edits?since=0`)).json()) as { changes: { label: string }[] };
  return changes.map((e) => e.label);
}

async function uploaded(request: APIRequestContext, name: string): Promise<string> {
  const created = await request.post('/api/jobs', { multipart: { file: { name, mimeType: 'model/step', buffer: readFileSync(FILE) } } });
  const { id } = (await created.json()) as { id: string };
  await expect.poll(async () => ((await (await request.get(`/api/jobs/${id}`)).json()) as { state: string }).state, { timeout: 120_000 }).toBe('ready');
  return id;
}

/** The Explode stage of a new job, its first plan checked. */
async function opened(page: Page, request: APIRequestContext, name: string) {
  test.setTimeout(180_000);
  const id = await uploaded(request, name);
  await page.goto(`/jobs/${id}/explode`);
  const pulls = page.getByRole('region', { name: 'Pulls' });
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 30_000 });
  return { id, pulls };
}

test('an exploded view: plan, drag, type, see a collision named, tighten, see it on the sheet', async ({ page, request }) => {
  const { id, pulls } = await opened(page, request, 'exploded.stp');
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
  // A nut pulled through what it sits on: that is said while it is dragged.
  await page.mouse.move(x - 260, y - 150, { steps: 8 });
  await expect(page.getByText(/nut passes through .* from .* mm\./).first()).toBeVisible({ timeout: 20_000 });
  await page.mouse.move(x + 40, y + 30, { steps: 8 });
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
  await letter(page, 'r');
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 60_000 });

  await letter(page, 't');
  await expect(page.getByText(/parts [\d.]+ mm apart on paper/).first()).toBeVisible({ timeout: 60_000 });
  // The balloons of the sheet follow, each on its part, and none crosses another.
  await expect.poll(async () => (await labelsOf(request, id)).at(-1), { timeout: 60_000 }).toBe('Arrange balloons');

  // Looked at from another side, it stays in its room, and the balloons follow again.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Where least is hidden' }).click();
  await page
    .getByRole('button', { name: /% hidden$/ })
    .nth(1)
    .click({ timeout: 30_000 });
  await expect.poll(async () => (await labelsOf(request, id)).slice(-2), { timeout: 60_000 }).toEqual(['Direction of view', 'Arrange balloons']);

  // Playing ends with everything together, by key.
  await page.keyboard.press(' ');
  await expect(page.getByRole('region', { name: 'Play apart and together' }).getByText('together', { exact: true })).toBeVisible({ timeout: 30_000 });

  await page.getByRole('link', { name: 'Sheets' }).click();
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await expect(page.getByText('All changes kept')).toBeVisible();
  await expect(page.getByText(/being drawn anew/)).toHaveCount(0, { timeout: 60_000 });

  // Beside it the same view with its parts together, clear of everything else.
  await page.locator('[data-id="view:exploded"]').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'The same together' }).click();
  const together = page.locator('[data-id^="view:exploded-view-together"]');
  await expect.poll(async () => (await together.boundingBox())?.width ?? 0, { timeout: 30_000 }).toBeGreaterThan(10);
  const rectOf = async (selector: string) => (await page.locator(selector).first().boundingBox())!;
  const mine = await rectOf('[data-id^="view:exploded-view-together"]');
  for (const other of ['[data-role="list"]', '[data-role="title"]', '[data-id="view:exploded"]']) {
    const r = await rectOf(other);
    const apart = mine.x >= r.x + r.width || r.x >= mine.x + mine.width || mine.y >= r.y + r.height || r.y >= mine.y + mine.height;
    expect([other, apart]).toEqual([other, true]);
  }
  await expect(page.getByRole('heading', { name: 'Exploded view, together' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
});

test('parts picked in the tree and in the model are pulled, bent, held together and shown in a view', async ({ page, request }) => {
  const { id, pulls } = await opened(page, request, 'picked.stp');
  const side = page.getByRole('tablist');

  // A spread of one's own, beside the planned one.
  await letter(page, 'n');
  await expect(page.getByLabel('Spread', { exact: true })).toHaveValue(/^spread:2~/);
  await expect(pulls.getByText('No pulls yet.')).toBeVisible();

  // The tree: open to a level, pick what lies on it, pick one branch and one more with Shift.
  await side.getByRole('tab', { name: 'Parts' }).click();
  const parts = page.getByRole('region', { name: 'Parts' });
  await parts.getByRole('button', { name: 'Pick level 1' }).click();
  await expect(page.getByRole('heading', { name: '1 part picked' })).toBeVisible();
  await parts.getByRole('button', { name: '2', exact: true }).click();
  await parts.getByRole('button', { name: 'Pick level 2' }).click();
  // Rod and its two nuts, and the two brackets.
  await expect(page.getByRole('heading', { name: '5 parts picked' })).toBeVisible();
  await parts.getByRole('button', { name: /^rod-assembly/ }).click();
  await expect(page.getByRole('heading', { name: '3 parts picked' })).toBeVisible();
  await page.getByRole('button', { name: 'Hold together' }).last().click();
  await page.keyboard.press('Escape');
  // What holds together is picked together.
  await parts.getByRole('button', { name: /\brod$/ }).click();
  await expect(page.getByRole('heading', { name: '3 parts picked' })).toBeVisible();

  // Pulled to the right, then bent: two pulls of the same parts.
  await page.getByRole('group', { name: 'Direction' }).getByRole('button', { name: '+Z' }).click();
  await page.getByRole('button', { name: 'Pull', exact: true }).click();
  await side.getByRole('tab', { name: 'Pulls' }).click();
  await expect(pulls.locator('[data-pull]')).toHaveCount(1);
  await letter(page, 'b');
  await expect(pulls.locator('[data-pull]')).toHaveCount(2);
  // A picture of the three together, not of one part.
  const picture = pulls.locator('img').first();
  await expect(picture).toHaveAttribute('src', /picture\?of=/);
  await expect.poll(() => picture.evaluate((img: HTMLImageElement) => img.naturalWidth), { timeout: 20_000 }).toBeGreaterThan(0);
  // The rod cannot be lifted out of its holes.
  await expect(pulls.getByText('1 not clear')).toBeVisible({ timeout: 20_000 });

  // A face of the model gives a direction, and an edge close to the press another one.
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  const view = (await page.getByTestId('explode-view').boundingBox())!;
  const offered = page.getByRole('button', { name: /^(Face|Axis|Edge) of / });
  for (const [x, y] of [
    [0.5, 0.5],
    [0.45, 0.55],
    [0.55, 0.55],
    [0.5, 0.62],
  ] as const) {
    await page.mouse.click(view.x + view.width * x, view.y + view.height * y);
    if (await offered.count()) break;
  }
  await expect(offered.first()).toBeVisible();

  // A view of the sheets shows it, and none does any more once it is removed.
  await page.keyboard.press('Escape');
  await page.getByText('Isometric, sheet 1').click();
  await expect.poll(() => labelsOf(request, id)).toContain('Show spread');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText('Isometric shows the parts together now.', { exact: false }).first()).toBeVisible();
  await expect(page.getByLabel('Spread', { exact: true })).toHaveValue('spread:1');
});

test('pulls are merged, split, spaced, reordered, named and switched off; a spread is duplicated and taken along', async ({ page, request }) => {
  const { id, pulls } = await opened(page, request, 'edited.stp');
  const rows = pulls.locator('[data-pull]');
  const row = (i: number) => pulls.locator(`[data-pull="${i - 1}"]`);
  const undone = async (count: number) => {
    await page.keyboard.press('Control+z');
    await expect(rows).toHaveCount(count);
  };
  // Nuts of the rod, the rod, nuts of the bolts, bolts, brackets.
  await expect(rows).toHaveCount(6);

  await row(1).click();
  await page.getByRole('button', { name: 'Merge with next' }).click();
  await expect(rows).toHaveCount(5);
  await expect(row(1)).toContainText('nut ×2');
  await undone(6);

  await row(6).click();
  await page.getByRole('button', { name: 'Split' }).click();
  // Brackets, rod and nuts went along in it.
  await expect(rows).toHaveCount(8);
  await undone(6);

  await row(5).click();
  await expect(row(5)).toContainText('bolt ×6');
  await page.getByText('Space evenly').click();
  await expect.poll(async () => (await labelsOf(request, id)).at(-1)).toBe('Space evenly');
  // All bolts stand at one height: evenly spaced they go as one, and nothing is passed through.
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 20_000 });
  await page.getByText('Space evenly').click();

  await expect(row(2)).toContainText('−X');
  await row(2).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(row(1)).toContainText('−X');
  await page.keyboard.press('Control+z');
  await expect(row(1)).toContainText('+X');

  await row(3).click();
  await page.getByLabel('Name', { exact: true }).fill('Rod out to the right');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect(row(3)).toContainText('Rod out to the right');
  await page.getByText('Made', { exact: true }).click();
  await expect(row(3)).toContainText('switched off');
  // What the rod holds is in the way of the brackets now, or it goes along: the check says which.
  await page.getByText('Made', { exact: true }).click();
  await expect(pulls.getByText('all clear')).toBeVisible({ timeout: 20_000 });

  // Until clear: the rod, 200 mm long, has to leave brackets and plate behind.
  await page.getByRole('button', { name: 'Until clear + gap' }).click();
  await expect.poll(async () => (await labelsOf(request, id)).at(-1), { timeout: 20_000 }).toBe('Until clear');
  expect(Number(await pulls.getByLabel(/of pull 3,/).inputValue())).toBeGreaterThan(50);

  // Step by step through the whole, by key.
  const line = page.getByRole('region', { name: 'Play apart and together' });
  await page.keyboard.press('Escape');
  await page.getByRole('slider', { name: 'From together to apart' }).press('Home');
  await expect(line.getByText('together', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'One pull on' }).click();
  await expect(line.getByText(/^pull 1 of 6/)).toBeVisible();
  await page.getByRole('button', { name: 'One pull back' }).click();
  await expect(line.getByText('together', { exact: true })).toBeVisible();

  // By name, with the quick bar.
  await page.keyboard.press('Control+k');
  await page.keyboard.type('Duplicate spread');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Spread', { exact: true })).toHaveValue(/^spread:2~/);
  const copy = encodeURIComponent(await page.getByLabel('Spread', { exact: true }).inputValue());
  await expect(rows).toHaveCount(6);

  const glb = await (await request.get(`/api/jobs/${id}/files/apart.glb?spread=${copy}`)).body();
  expect(glb.subarray(0, 4).toString()).toBe('glTF');
  expect(glb.readUInt32LE(8)).toBe(glb.length);
  const zip = await (await request.get(`/api/jobs/${id}/files/steps.zip?spread=${copy}`)).body();
  expect(zip.subarray(0, 2).toString()).toBe('PK');
  // A picture for what stands at first and one for each pull.
  for (let step = 1; step <= 7; step++) expect(zip.includes(`step-00${step}.svg`)).toBe(true);
  const none = await request.get(`/api/jobs/${id}/picture?of=5000`);
  expect([none.status(), ((await none.json()) as { error: { code: string } }).error.code]).toEqual([404, 'NOT_FOUND']);
  expect((await request.get(`/api/jobs/${id}/picture?of=one`)).status()).toBe(400);
});
