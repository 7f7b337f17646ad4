import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { AS1, drag, drawnJob, dropFile, FILES, kept, middleOf, letter } from './helpers';

const circle = '[data-id="balloon:plate"] path:last-of-type';

test('the first sheet is open while the others are drawn', async ({ page }) => {
  await page.goto('/');
  // What is seen at the moment when the rest is announced: the page is not loaded anew on the way there.
  await page.evaluate(() => {
    const seen = new MutationObserver(() => {
      const sheet = document.querySelector('[data-testid=sheet] [data-role=view] path');
      if (!document.body.textContent.includes('More sheets:') || !sheet) return;
      document.body.dataset['early'] = String(document.querySelectorAll('nav ol > li').length);
      seen.disconnect();
    });
    seen.observe(document, { subtree: true, childList: true });
  });
  await dropFile(page, 'as1.stp', readFileSync(AS1));
  await drawnJob(page);
  const early = Number(await page.evaluate(() => document.body.dataset['early']));
  expect(early).toBeGreaterThan(0);
  expect(await page.getByRole('button', { name: /^Sheet \d/ }).count()).toBeGreaterThan(early);
});

test('drop → drawing → move a balloon → change a property → PDF', async ({ page }) => {
  const broken: string[] = [];
  page.on('pageerror', (e) => broken.push(e.message));
  await page.goto('/');
  await dropFile(page, 'as1.stp', readFileSync(AS1));
  await drawnJob(page);
  await expect(page.getByRole('heading', { name: 'Parts ledger' })).toBeVisible();
  await expect(page.getByText('5 items · 18 pieces')).toBeVisible();
  await kept(page);

  // Sheet 2: five balloons, each with its number.
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await expect(page.getByTestId('sheet').locator('[data-role="balloon"]')).toHaveCount(5);

  // Move a balloon: it stays where it was put, also after a reload; undo puts it back.
  const before = await middleOf(page, circle);
  const sent = page.waitForResponse((r) => r.url().endsWith('/edits') && r.ok());
  await drag(page, before, -30, -24);
  await sent;
  await kept(page);
  const moved = await middleOf(page, circle);
  expect(moved.x - before.x).toBeCloseTo(-30, -0.5);
  expect(moved.y - before.y).toBeCloseTo(-24, -0.5);
  await page.reload();
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  expect((await middleOf(page, circle)).x).toBeCloseTo(moved.x, -0.5);
  await page.keyboard.press('Control+z');
  await kept(page);
  expect((await middleOf(page, circle)).x).toBeCloseTo(before.x, -0.5);
  await page.keyboard.press('Control+Shift+z');
  await kept(page);
  expect((await middleOf(page, circle)).x).toBeCloseTo(moved.x, -0.5);

  // Without the server a change waits, is said not to be kept, and is kept when the server is back.
  await page.context().setOffline(true);
  await drag(page, moved, 12, 0);
  await expect(page.getByTestId('kept')).toHaveText('Not connected: changes wait here');
  await page.context().setOffline(false);
  await kept(page);
  await page.reload();
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  expect((await middleOf(page, circle)).x).toBeCloseTo(moved.x + 12, -0.5);

  // Change a property: list and title block follow.
  await page.locator('[data-part="plate"]').click();
  await page.getByLabel('Description').fill('Plate, base');
  await page.getByLabel('Description').press('Enter');
  await page.getByLabel('Material').fill('S355');
  await page.getByLabel('Material').press('Enter');
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="list"]').getByText('Plate, base')).toBeVisible();
  await expect(page.locator('[data-part="plate"]')).toContainText('Plate, base');
  await page.getByRole('application').focus();
  await letter(page, 't');
  await page.getByLabel('Title', { exact: true }).fill('Bracket test stand');
  await page.getByLabel('Title', { exact: true }).press('Enter');
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="title"]').getByText('Bracket test stand')).toBeVisible();

  // The PDF has what the screen shows.
  await page.keyboard.press('Escape');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'PDF, all sheets' }).click();
  const pdf = await (await download).path();
  const text = spawnSync('pdftotext', ['-layout', pdf, '-'], { encoding: 'utf8' }).stdout;
  for (const words of ['Plate, base', 'Bracket test stand', 'S355', '2 of 2']) expect(text).toContain(words);
  expect(spawnSync('pdfinfo', [pdf], { encoding: 'utf8' }).stdout).toMatch(/Pages:\s+2/);
  expect(broken).toEqual([]);
});

test('views: drag keeps neighbours in line; lines, scale, standard and size; two windows', async ({ page, context }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await kept(page);
  const front = '[data-id="view:front"]';
  const top = '[data-id="view:top"]';
  await expect(page.locator(front)).toBeVisible();
  const a = await middleOf(page, front);
  const b = await middleOf(page, top);
  await drag(page, a, 24, 12);
  await kept(page);
  expect((await middleOf(page, front)).x - a.x).toBeCloseTo(24, -0.5);
  expect((await middleOf(page, top)).x - b.x).toBeCloseTo(24, -0.5);
  expect((await middleOf(page, top)).y - b.y).toBeCloseTo(0, -0.5);

  // Hidden lines are computed on the server and appear dashed.
  await page.locator(front).focus();
  await page.keyboard.press('Enter');
  await letter(page, 'h');
  await expect(page.locator(`${front} path[stroke-dasharray="3 1"]`).first()).toBeAttached({ timeout: 30_000 });
  await page
    .getByRole('toolbar', { name: /Front: view/ })
    .getByRole('button', { name: 'Smaller scale' })
    .click();
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="title"]')).toContainText(/1:5|as shown/);

  // A second window follows.
  const other = await context.newPage();
  await other.goto(page.url());
  await kept(other);
  await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  await expect(other.getByTestId('sheet').locator('[data-role="title"]')).toContainText('1:2');
  await other.close();

  await page.keyboard.press('Escape');
  // The switch says what it changes, and waits for a word.
  await page.getByLabel('Standard').selectOption('asme');
  await expect(page.getByRole('alertdialog', { name: 'Another standard' })).toContainText('first angle → third angle');
  await page.getByRole('button', { name: 'Switch', exact: true }).click();
  // The views of all sheets are fetched first: every one is arranged.
  await expect(page.getByRole('alertdialog')).toHaveCount(0, { timeout: 30_000 });
  await kept(page);
  await expect(page.getByLabel('Standard')).toHaveValue('asme');
  await expect(page.getByLabel('Size')).toHaveValue('B');
  await kept(page);
  const box = (await page.getByTestId('sheet').boundingBox())!;
  expect(box.width / box.height).toBeCloseTo(17 / 11, 2);

  // Select in the list: the ledger and the views follow.
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await page.getByTestId('sheet').locator('[data-role="list"]').getByText('bolt').click();
  await expect(page.locator('[data-part="bolt"]')).toHaveAttribute('aria-pressed', 'true');
  await expect(page.locator('[data-id="view:exploded"] path[stroke="#12707a"]').first()).toBeAttached();

  // Columns, and the quick bar.
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('What do you want to do?').fill('columns');
  await page.keyboard.press('Enter');
  await page.getByLabel('Supplier', { exact: true }).check();
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="list"]').getByText('Supplier', { exact: true })).toBeVisible();
});

test('a balloon is re-aimed by its tip, and a new one is made with the tool', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await page.mouse.click(...(Object.values(await middleOf(page, circle)) as [number, number]));
  const tip = await middleOf(page, '[data-testid="handle-tip"]');
  const target = await middleOf(page, '[data-id="view:exploded"]');
  await drag(page, tip, target.x - tip.x, target.y - tip.y);
  await kept(page);
  const after = await middleOf(page, '[data-testid="handle-tip"]');
  expect(Math.hypot(after.x - tip.x, after.y - tip.y)).toBeGreaterThan(5);

  await page.getByRole('button', { name: 'Remove balloon' }).click();
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="balloon"]')).toHaveCount(4);
  await expect(page.getByRole('button', { name: '1 not identified' })).toBeVisible();
  await page.locator('[data-id="view:exploded"]').focus();
  await page.keyboard.press('Enter');
  await letter(page, 'i');
  await kept(page);
  await expect(page.getByTestId('sheet').locator('[data-role="balloon"]')).toHaveCount(5);
});

test('balloons are arranged anew around the one that was put somewhere by hand', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  const sheet = page.getByTestId('sheet');
  const balloon = (part: string) => `[data-id^="balloon:${part}"] path:last-of-type`;
  // Another one is dragged far off; nobody is told that it shall stay, it is known.
  const bolt = await middleOf(page, balloon('bolt'));
  await drag(page, bolt, -90, 40);
  await kept(page);
  await expect(page.getByRole('switch', { name: 'Stays where it was put' }).or(page.getByLabel('Stays where it was put'))).toBeChecked();
  const put = await middleOf(page, balloon('bolt'));
  const plate = await middleOf(page, balloon('plate'));
  // The same may be said of any other, or taken back.
  await page.mouse.click(plate.x, plate.y);
  await page.getByText('Stays where it was put').click();
  await kept(page);

  await page.keyboard.press('Escape');
  await page.locator('[data-id="view:exploded"]').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Arrange balloons anew' }).click();
  await kept(page);
  const after = await middleOf(page, balloon('bolt'));
  expect([after.x - put.x, after.y - put.y].map((v) => Math.abs(v) < 1)).toEqual([true, true]);
  await expect(sheet.locator('[data-role="balloon"]')).toHaveCount(5);
  // None stands on another.
  const centres = await sheet.locator('[data-role="balloon"] path:last-of-type').evaluateAll((all) =>
    all.map((e) => {
      const b = e.getBoundingClientRect();
      return { x: b.x + b.width / 2, y: b.y + b.height / 2, r: b.width / 2 };
    }),
  );
  centres.forEach((a, i) => {
    for (const b of centres.slice(i + 1)) expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(a.r + b.r);
  });
  await page.keyboard.press('Control+z');
  await kept(page);
});

test('centrelines of a view are switched off and on, one circle is taken off and put back, and they print', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await page.getByRole('button', { name: /^Sheet 1/ }).click();
  const top = page.locator('[data-id="view:top"]');
  await middleOf(page, '[data-id="view:top"]');
  await top.focus();
  await page.keyboard.press('Enter');
  const marks = page.getByTestId('sheet').locator('[data-role="centre"][aria-label="Centrelines of Top"] path');
  await expect(marks.first()).toBeAttached();
  await letter(page, 'k');
  await kept(page);
  await expect(marks).toHaveCount(0);
  await letter(page, 'k');
  await kept(page);
  /** Lines of all marks: two for each circle, many in one path. */
  const lines = () => marks.evaluateAll((paths) => paths.flatMap((p) => p.getAttribute('d')!.match(/M[^M]+/g) ?? []));
  const all = await lines();
  expect(all.length).toBeGreaterThan(2);
  await page.keyboard.press('Escape');
  // The tool shows the circle under the pointer; a press takes its mark off, another brings it back.
  await letter(page, 'm');
  const [x, y] = await page.getByTestId('sheet').evaluate((sheet: SVGSVGElement, line) => {
    const [x0, y0, x1, y1] = line.match(/-?[\d.]+/g)!.map(Number) as [number, number, number, number];
    const at = new DOMPoint((x0 + x1) / 2, (y0 + y1) / 2).matrixTransform(sheet.getScreenCTM()!);
    return [at.x, at.y] as const;
  }, all[0]!);
  await page.mouse.move(x, y);
  await expect(page.getByTestId('circle')).toBeAttached();
  await page.mouse.down();
  await page.mouse.up();
  await kept(page);
  await expect.poll(lines).toHaveLength(all.length - 2);
  await page.mouse.down();
  await page.mouse.up();
  await kept(page);
  await expect.poll(lines).toHaveLength(all.length);
  await page.keyboard.press('Escape');
  const svg = await page.request.get(page.url().replace(/\/jobs\/([^/]+).*/, '/api/jobs/$1/files/sheet-1.svg'));
  expect((await svg.text()).match(/data-role="centre"/g)!.length).toBeGreaterThanOrEqual(3);
});

test('a drawing given away as JSON is read back in, and undo takes it away', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await expect(page.getByTestId('sheet')).toBeVisible();
  const json = await (await page.request.get(page.url().replace(/\/jobs\/([^/]+).*/, '/api/jobs/$1/files/drawing.json'))).text();
  const file = JSON.parse(json) as { records: { drawing: { title: string } } };
  file.records.drawing.title = 'Read back in';
  await page
    .getByLabel('Read a drawing back in')
    .setInputFiles({ name: 'drawing.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(file)) });
  const title = page.getByTestId('sheet').locator('[data-role="title"]');
  await expect(title.getByText('Read back in')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  await expect(title.getByText('Read back in')).toHaveCount(0);
  await page.getByLabel('Read a drawing back in').setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
  await expect(page.getByText('The file is JSON, but no drawing.')).toBeVisible();
});

test('a cutting line drawn on a view becomes a section; a break is drawn around; slices stand beside', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Bracket test stand' }).first().click();
  await page.getByRole('button', { name: /^Sheet 1/ }).click();
  const top = page.locator('[data-id="view:top"]');
  await middleOf(page, '[data-id="view:top"]');
  const b = (await top.boundingBox())!;
  // Two presses and the key: a full section, with letters in the view that carries the line.
  await letter(page, 'n');
  await page.mouse.click(b.x - 6, b.y + b.height / 2);
  await page.mouse.click(b.x + b.width + 6, b.y + b.height / 2 + 2);
  await expect(page.getByTestId('cutting-line')).toHaveAttribute('d', /^M[^L]+L[^L]+L?[^L]*$/);
  await page.keyboard.press('Enter');
  await kept(page);
  const sheet = page.getByTestId('sheet');
  await expect(sheet.locator('[data-role="view"]').getByText(/^B–B/)).toBeVisible();
  await expect(sheet.locator('[data-id="view:top"]').getByText('B', { exact: true })).toHaveCount(2);
  // Hatched: the section is drawn by the server.
  await expect(page.getByText(/drawing this view/)).toHaveCount(0, { timeout: 30_000 });
  // What it keeps whole comes with the reason; turned round the other way it is the same section.
  await page.getByRole('button', { name: 'Suggest what to keep whole' }).click();
  await expect(page.getByRole('list', { name: 'Suggestions' })).toContainText(/Nothing more to keep whole|fastener|turned part/);
  await page.getByRole('button', { name: 'Turn round' }).click();
  await kept(page);
  await page.getByLabel(/^Slices/).fill('2 x 15');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await kept(page);
  await expect(sheet.locator('[data-role="view"]').getByText(/^[CD]–[CD]/)).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await kept(page);
  await expect(sheet.locator('[data-role="view"]').getByText(/^[CD]–[CD]/)).toHaveCount(0);

  // A line that folds back is refused in words, and nothing is lost.
  await page.keyboard.press('Escape');
  await letter(page, 'n');
  for (const [x, y] of [
    [0, 0.2],
    [1, 0.2],
    [0.2, 0.28],
  ])
    await page.mouse.click(b.x + b.width * x!, b.y + b.height * y!);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/folds back on itself|runs straight, in square steps/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');

  // Press, go around, let go.
  await middleOf(page, '[data-id="view:front"]');
  const front = (await page.locator('[data-id="view:front"]').boundingBox())!;
  await letter(page, 'o');
  const [cx, cy, r] = [front.x + front.width / 2, front.y + front.height / 2, front.height / 3];
  await page.mouse.move(cx + r, cy);
  await page.mouse.down();
  for (let a = 1; a <= 16; a++) await page.mouse.move(cx + r * Math.cos((a / 16) * 2 * Math.PI), cy + r * Math.sin((a / 16) * 2 * Math.PI));
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Close the break' })).toBeVisible();
  await kept(page);
});

test('bad files get a sentence and leave the server well', async ({ page, request }) => {
  await page.goto('/');
  await dropFile(page, 'empty.stp', Buffer.alloc(0));
  await expect(page.locator('.drop').getByRole('alert')).toContainText('empty.stp is empty');
  await dropFile(page, 'photo.png', Buffer.from('x'));
  await expect(page.locator('.drop').getByRole('alert')).toContainText('none of the formats');
  await dropFile(page, 'half.stp', readFileSync(AS1).subarray(0, 20_000));
  await expect(page.getByText(/half\.stp stops before its end/).first()).toBeVisible({ timeout: 30_000 });
  await dropFile(page, 's1.stp', readFileSync(join(FILES, 's1-tu-203/s1-tu-203.stp')));
  await expect(page.getByText(/refers to files that were not given/).first()).toBeVisible({ timeout: 30_000 });
  expect((await request.get('/api/health')).ok()).toBe(true);
  // Another site may not change anything; headers are in place.
  const foreign = await request.post('/api/jobs', {
    headers: { origin: 'http://elsewhere.example' },
    multipart: { file: { name: 'a.stp', mimeType: 'text/plain', buffer: Buffer.from('x') } },
  });
  expect(foreign.status()).toBe(403);
  expect(foreign.headers()['x-content-type-options']).toBe('nosniff');
  expect(foreign.headers()['x-request-id']).toBeTruthy();
});
