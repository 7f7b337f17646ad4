import { readFileSync } from 'node:fs';
import { Document, NodeIO } from '@gltf-transform/core';
import { expect, test, type Page } from '@playwright/test';
import { AS1, drawnJob, kept, letter } from './helpers';
import { binaryStl } from '../src/formats/testing/hostile-files.ts';

const cell = (page: Page, row: number, title: string) => page.getByRole('grid').locator(`[data-title="${title}"]`).nth(row);

/** A job of as1, made once. */
async function openModel(page: Page): Promise<string> {
  await page.goto('/');
  const known = page.getByRole('link', { name: 'as1' }).first();
  if ((await known.count()) === 0) {
    await page.setInputFiles('input[aria-label="Assembly files"]', { name: 'as1-model.stp', mimeType: 'model/step', buffer: readFileSync(AS1) });
    await drawnJob(page);
  } else await known.click();
  await page.waitForURL(/\/sheets/);
  const url = page.url().replace('/sheets', '/model');
  await page.goto(url);
  await expect(page.getByRole('grid')).toBeVisible();
  return url;
}

test('gaps are filled by keyboard, by paste and by filling down; undo takes it back', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openModel(page);
  const gaps = page.getByRole('button', { name: /gaps$/ });
  const before = Number(/\d+/.exec((await gaps.textContent()) ?? '')?.[0]);
  expect(before).toBeGreaterThan(10);
  // Next gap, type, Enter: the next row is active.
  await page.getByRole('button', { name: 'Next gap' }).click();
  await page.keyboard.type('made');
  await page.keyboard.press('Enter');
  await kept(page);
  // Three rows of a spreadsheet, pasted from the second row of the material column.
  await cell(page, 1, 'Material').click();
  await page.evaluate(() => navigator.clipboard.writeText('S355\tx\nC45\tx\nPA6\tx'.replace(/\tx/g, '')));
  await page.keyboard.press('Control+v');
  await kept(page);
  await expect(cell(page, 1, 'Material')).toHaveText('S355');
  await expect(cell(page, 3, 'Material')).toHaveText('PA6');
  // Mass follows from volume and density: the rod of 15,708 mm³ in S355 weighs 123 g.
  await expect(cell(page, 1, 'Mass')).toHaveText('0.123 kg');
  // Fill down over two rows.
  await cell(page, 1, 'Supplier').click();
  await page.keyboard.type('Reed Springs');
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await kept(page);
  await expect(cell(page, 2, 'Supplier')).toHaveText('Reed Springs');
  await page.keyboard.press('Control+z');
  await kept(page);
  await expect(cell(page, 2, 'Supplier')).toHaveText('');
  // A text that the column does not take is refused in words.
  await cell(page, 1, 'Source').click();
  await page.keyboard.type('stolen');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Source takes one of made, bought, standard/)).toBeVisible();
  // Put back: what was typed goes.
  await cell(page, 1, 'Material').click();
  await page.keyboard.press('Delete');
  await kept(page);
  await expect(cell(page, 1, 'Material')).toHaveText('');
});

test('a column of your own, and the properties out and in again', async ({ page }) => {
  await openModel(page);
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByLabel('Name').first().fill('Price');
  await page.getByRole('button', { name: 'Add column' }).click();
  await kept(page);
  await expect(page.getByRole('columnheader', { name: /Price/ })).toBeAttached();
  await page.getByRole('button', { name: 'In and out' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Take out as CSV' }).click();
  const csv = readFileSync(await (await download).path(), 'utf8');
  const changed = csv.replace(/^(plate,[^\r\n]*)$/m, (row) => row.replace(/,[^,]*$/, ',12.5'));
  expect(changed).not.toBe(csv);
  await page.setInputFiles('input[aria-label="Properties file"]', { name: 'p.csv', mimeType: 'text/csv', buffer: Buffer.from(changed) });
  await expect(page.getByText('1 values would change')).toBeVisible();
  await page.getByRole('button', { name: 'Bring these in' }).click();
  await kept(page);
  await expect(page.getByRole('grid').locator('[data-title="Price"]').filter({ hasText: '12.5' })).toHaveCount(1);
});

test('a newer model: what changed is shown, a balloon survives, and one undo takes it all back', async ({ page }) => {
  const url = await openModel(page);
  const newer = readFileSync(AS1).toString('latin1').replaceAll("'plate'", "'base plate'");
  await page.setInputFiles('input[aria-label="Newer model"]', { name: 'as1-rev2.stp', mimeType: 'model/step', buffer: Buffer.from(newer, 'latin1') });
  await page.getByRole('button', { name: 'See what changed' }).click({ timeout: 60_000 });
  await expect(page.getByText('“plate” is now “base plate”.')).toBeVisible();
  await page.getByRole('button', { name: 'Take it over' }).click();
  await expect(page.getByText('The drawing shows as1-rev2.stp.')).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('grid')).toContainText('base plate');
  await page.goto(url.replace('/model', '/sheets'));
  await page.getByRole('button', { name: /^Sheet 2/ }).click();
  await expect(page.getByTestId('sheet').locator('[data-id="balloon:plate"]')).toBeAttached();
  await expect(page.getByTestId('sheet').locator('[data-role="list"]').getByText('base plate')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('sheet').locator('[data-role="list"]').getByText('plate', { exact: true })).toBeVisible({ timeout: 15_000 });
});

test('the 3D view opens when asked for, picks, hides and isolates', async ({ page }) => {
  await openModel(page);
  await page.getByRole('button', { name: '3D', exact: true }).click();
  const view = page.getByTestId('model-view');
  await expect(view.locator('canvas')).toBeVisible({ timeout: 30_000 });
  await view.focus();
  await letter(page, 'i');
  await expect(page.getByRole('button', { name: /^Show all \(\d+\)/ })).toBeVisible();
  await letter(page, 'a');
  await expect(page.getByRole('button', { name: 'Show all', exact: true })).toBeDisabled();
  // Measure: the plate lies in the middle; a second pick gives distances.
  await letter(page, 'm');
  await expect(page.getByText('Pick a face, hole, shaft or ball; then a second one.')).toBeVisible();
  const box = (await view.locator('canvas').boundingBox())!;
  for (const x of [0.5, 0.47]) await page.mouse.click(box.x + box.width * x, box.y + box.height * 0.5);
  await expect(page.getByText(/Between the picked points: [\d.]+ mm/)).toBeVisible();
});

test('a file without a unit is asked about, with its size, and becomes a drawing', async ({ page }) => {
  await page.goto('/');
  const tetra = [
    [0, 0, 0, 0, 10, 0, 10, 0, 0],
    [0, 0, 0, 10, 0, 0, 0, 0, 10],
    [0, 0, 0, 0, 0, 10, 0, 10, 0],
    [10, 0, 0, 0, 10, 0, 0, 0, 10],
  ];
  await page.setInputFiles('input[aria-label="Assembly files"]', [
    { name: 'foot.stl', mimeType: 'model/stl', buffer: Buffer.from(binaryStl(tetra)) },
    { name: 'head.stl', mimeType: 'model/stl', buffer: Buffer.from(binaryStl(tetra.map((t) => t.map((v, i) => v + (i % 3 === 2 ? 20 : 0))))) },
  ]);
  const question = page.getByRole('form', { name: 'Unit of the file' });
  await expect(question).toContainText('2 files do not say in which unit');
  await expect(question).toContainText('10 × 10 × 30 mm');
  await question.getByText('inches').click();
  await question.getByRole('button', { name: 'Bring in' }).click();
  await drawnJob(page);
  await expect(page.getByText('2 items · 2 pieces')).toBeVisible();
});

test('a size that cannot be is drawn all the same, and asked about; the answer changes the unit of everything, undo takes it back', async ({ page }) => {
  // Three boxes in metres, as an exporter writes them that meant millimetres: 743 m long.
  const doc = new Document();
  const buffer = doc.createBuffer();
  const scene = doc.createScene('Frame');
  for (const [i, size] of [743, 120, 60].entries()) {
    const p = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((c) => [c & 1 ? size : 0, c & 2 ? 40 : 0, c & 4 ? 30 : 0]);
    const t = [0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5];
    const primitive = doc
      .createPrimitive()
      .setAttribute('POSITION', doc.createAccessor().setType('VEC3').setArray(new Float32Array(p)).setBuffer(buffer))
      .setIndices(doc.createAccessor().setType('SCALAR').setArray(new Uint16Array(t)).setBuffer(buffer));
    const node = doc.createNode(`Rail ${'ABC'[i]!}`).setMesh(doc.createMesh(`Mesh_${i}`).addPrimitive(primitive));
    scene.addChild(node.setTranslation([0, 50 * i, 0]));
  }
  await page.goto('/');
  await page.setInputFiles('input[aria-label="Assembly files"]', {
    name: 'frame-743.glb',
    mimeType: 'model/gltf-binary',
    buffer: Buffer.from(await new NodeIO().writeBinary(doc)),
  });
  await drawnJob(page);
  // The meshes have names that say nothing: the nodes' are taken, and say so.
  await expect(page.getByText('Rail A').first()).toBeVisible();
  const sheet = page.getByTestId('sheet');
  await expect(sheet.locator('[data-role="title"]').getByText(/^1:\d{4}$/)).toBeVisible();
  const question = page.getByRole('group', { name: 'Unit of the file' });
  await expect(question).toContainText('The whole would be 743 ×');
  await expect(question.getByRole('button').first()).toHaveText(/^millimetres: 743 × .* mm$/);
  await question.getByRole('button').first().click();
  await expect(question).toBeHidden({ timeout: 30_000 });
  await expect(sheet.locator('[data-role="title"]').getByText(/^1:\d$/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(question).toBeVisible({ timeout: 30_000 });
  await question.getByRole('button', { name: 'It is right' }).click();
  await expect(question).toBeHidden();
  await kept(page);
  await page.reload();
  await expect(page.getByText('Rail A').first()).toBeVisible();
  await expect(question).toBeHidden();
});
