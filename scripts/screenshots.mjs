// Takes the pictures of docs/screenshots from a running application that holds the demo: node scripts/screenshots.mjs http://127.0.0.1:PORT
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { findChromium, root } from './install.mjs';

const address = process.argv[2] ?? 'http://127.0.0.1:5000';
const out = join(root, 'docs', 'screenshots');
const jobs = await (await fetch(`${address}/api/jobs`)).json();
const demo = jobs.find((j) => j.demo && j.state === 'ready');
if (!demo) throw new Error('The demo job is not ready.');
const browser = await chromium.launch({ executablePath: findChromium(), args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
for (const scheme of ['light', 'dark']) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: scheme });
  const dark = scheme === 'dark' ? '-dark' : '';
  await page.goto(address);
  await page.waitForTimeout(1200);
  if (!dark) await page.screenshot({ path: join(out, 'start.png') });
  await page.goto(`${address}/jobs/${demo.id}/sheets`);
  await page.waitForTimeout(2000);
  await page.getByRole('button', { name: /^Sheet 3/ }).click();
  await page.locator('[data-part="Ratchet wheel"]').click();
  await page.waitForTimeout(600);
  await page.screenshot({ path: join(out, `sheets${dark}.png`) });
  if (!dark) {
    // A view about to be placed: nothing is changed by looking.
    await page.getByRole('button', { name: /^Sheet 1/ }).click();
    await page.waitForTimeout(800);
    await page.keyboard.press('Escape');
    await page.keyboard.press('w');
    await page.getByRole('button', { name: 'from the right' }).click();
    const b = await page.getByTestId('sheet').boundingBox();
    await page.mouse.move(b.x + 0.83 * b.width, b.y + 0.33 * b.height);
    await page.waitForTimeout(400);
    await page.screenshot({ path: join(out, 'views.png') });
    // What a recipe would make.
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Recipes' }).click();
    await page.waitForTimeout(1200);
    await page.screenshot({ path: join(out, 'recipes.png') });
    // The sheet of a bent part, with its flat pattern dimensioned: the small demo was drawn by a recipe.
    const bracket = jobs.find((j) => j.title === 'Gauge bracket');
    await page.goto(`${address}/jobs/${bracket.id}/sheets`);
    await page.getByRole('button', { name: /^Sheet 4/ }).click();
    await page.locator('[data-role=dimension]').first().waitFor();
    await page.waitForTimeout(800);
    await page.screenshot({ path: join(out, 'bent-plate.png') });
    // The canvas of a sheet format, its title block chosen; taken back afterwards.
    await page.goto(`${address}/jobs/${demo.id}/sheets`);
    await page.getByRole('button', { name: 'Change …' }).click();
    await page.getByText('Sheet format “').first().waitFor();
    await page.getByTestId('sheet').locator('[data-role=title]').getByText('Drawing number').click();
    await page.waitForTimeout(800);
    await page.screenshot({ path: join(out, 'format.png') });
    await page.getByRole('button', { name: 'Back to the sheets' }).first().click();
    await page.keyboard.press('Control+z');
    await page.waitForTimeout(800);
    // A dimension about to be placed: from the crank's grip to the drum's shaft.
    await page.keyboard.press('Escape');
    await page.goto(`${address}/jobs/${demo.id}/sheets`);
    await page.getByRole('button', { name: /^Sheet 1/ }).click();
    await page.locator('[data-role=dimension]').first().waitFor();
    const box = () =>
      page.locator('[data-id="view:front"] path').evaluateAll((paths) => {
        const all = paths.map((p) => p.getBoundingClientRect());
        const [left, bottom] = [Math.min(...all.map((b) => b.left)), Math.max(...all.map((b) => b.bottom))];
        return { left, bottom, mm: (Math.max(...all.map((b) => b.right)) - left) / 653 };
      });
    const to = async (x, y) => {
      const b = await box();
      await page.mouse.move(b.left + x * b.mm, b.bottom - y * b.mm);
    };
    const press = async (x, y) => {
      await to(x, y);
      await page.mouse.down();
      await page.mouse.up();
    };
    await to(150, 120);
    for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -150);
    await page.keyboard.press('1');
    await press(13, 137.4);
    await press(153, 137.4);
    await to(100, 260);
    await page.waitForTimeout(400);
    await page.screenshot({ path: join(out, 'dimension.png') });
  }
  await page.close();
}
await browser.close();
// The 3D view needs WebGL, which a machine without a graphics card does in software.
const soft = await chromium.launch({
  executablePath: findChromium(),
  args: ['--no-sandbox', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--disable-background-networking'],
});
const page = await soft.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${address}/jobs/${demo.id}/model`);
await page.waitForTimeout(1500);
await page.getByRole('button', { name: 'Next gap' }).click();
await page.screenshot({ path: join(out, 'model.png') });
await page.getByRole('button', { name: '3D', exact: true }).click();
await page.waitForTimeout(5000);
await page.screenshot({ path: join(out, 'model-3d.png') });
await page.getByRole('button', { name: '3D', exact: true }).click();
// The newer model is looked at and left: the demo stays as it is.
const bring = page.getByRole('button', { name: 'Bring in revision 2' });
if (await bring.count()) {
  await bring.click();
  await page.getByRole('button', { name: 'See what changed' }).click({ timeout: 120_000 });
  await page.waitForTimeout(800);
  await page.screenshot({ path: join(out, 'newer-model.png') });
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.waitForTimeout(500);
}
await page.goto(`${address}/jobs/${demo.id}/proof`);
await page.getByRole('heading', { name: /must, \d+ should/ }).waitFor({ timeout: 60_000 });
await page.waitForTimeout(6000);
// With the ways to show what is hardly seen.
await page.getByText('is hardly seen').first().click();
await page.getByRole('button', { name: 'Other ways' }).click();
await page.getByRole('button', { name: 'Add it' }).nth(1).waitFor({ timeout: 60_000 });
await page.waitForTimeout(800);
await page.screenshot({ path: join(out, 'proof.png') });
await page.goto(`${address}/jobs/${demo.id}/explode`);
await page.getByText('all clear').waitFor({ timeout: 60_000 });
await page.waitForTimeout(2500);
await page.screenshot({ path: join(out, 'explode.png') });
await page.locator('[data-pull]', { hasText: 'Side frame, right' }).click();
await page.waitForTimeout(1500);
await page.screenshot({ path: join(out, 'explode-pull.png') });
// An issue of the demo, once; then something is moved, and taken back after the picture.
const answers = (path, body) =>
  fetch(`${address}/api/jobs/${demo.id}/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: address },
    body: JSON.stringify(body),
  });
const state = async () => (await fetch(`${address}/api/jobs/${demo.id}/drawing`)).json();
if (!(await (await fetch(`${address}/api/jobs/${demo.id}/issues`)).json()).length)
  await (
    await answers('issues', {
      version: (await state()).version,
      revision: 'A',
      date: '2026-11-26',
      drawn: 'M. Quay',
      words: ['First issue'],
      outputs: ['pdf', 'list', 'guide', 'json'],
    })
  ).text();
const { version, document } = await state();
const seen = document['view:isometric'];
const moved = { ...seen, at: [seen.at[0] + 5, seen.at[1] + 4] };
await answers('edits', { version, label: 'Isometric moved', steps: [{ op: 'put', record: moved }] });
await page.goto(`${address}/jobs/${demo.id}/issue`);
await page.getByTestId('two-inks').waitFor({ timeout: 60_000 });
await page.waitForTimeout(4000);
await page.screenshot({ path: join(out, 'issue.png') });
const guide = await page.getByRole('link', { name: 'Guide', exact: true }).first().getAttribute('href');
await answers('undo', { version: version + 1 });
await page.goto(`${address}${guide}`);
for (let i = 0; i < 19; i++) await page.getByRole('button', { name: /Done/ }).click();
await page.waitForTimeout(400);
await page.screenshot({ path: join(out, 'guide.png') });
await soft.close();
const temp = mkdtempSync(join(tmpdir(), 'quarry-shots-'));
writeFileSync(join(temp, 'd.pdf'), Buffer.from(await (await fetch(`${address}/api/jobs/${demo.id}/files/drawing.pdf`)).arrayBuffer()));
spawnSync('pdftoppm', ['-r', '80', '-png', join(temp, 'd.pdf'), join(temp, 'p')]);
for (const n of [1, 2, 3]) writeFileSync(join(out, `demo-sheet-${n}.png`), readFileSync(join(temp, `p-${n}.png`)));
rmSync(temp, { recursive: true });
