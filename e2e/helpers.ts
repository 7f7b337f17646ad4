import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';

/** Public test files that come with a package. */
export const FILES = join(process.cwd(), 'node_modules/occt-import-js/test/testfiles/cax-if');
export const AS1 = join(FILES, 'as1-oc-214.stp');

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** Drops a file on the start page. */
export async function dropFile(page: Page, name: string, data: Buffer): Promise<void> {
  const transfer = await page.evaluateHandle(
    ([n, b]) => {
      const t = new DataTransfer();
      t.items.add(new File([Uint8Array.from(atob(b), (c) => c.charCodeAt(0))], n));
      return t;
    },
    [name, data.toString('base64')] as const,
  );
  await page.dispatchEvent('.drop', 'drop', { dataTransfer: transfer });
}

/** Everything that goes wrong on a page from now on. */
export function errorsOn(page: Page): string[] {
  const broken: string[] = [];
  page.on('pageerror', (e) => broken.push(e.message));
  page.on('console', (m) => m.type() === 'error' && broken.push(`${m.text()} ${m.location().url}`));
  return broken;
}

/** The job that every new one of as1-oc-214 is a copy of: drawn once for each worker, and never opened. */
let template: Promise<string> | undefined;

async function as1Template(page: Page): Promise<string> {
  const made = await page.request.post('/api/jobs', { multipart: { file: { name: 'as1.stp', mimeType: 'model/step', buffer: readFileSync(AS1) } } });
  const { id } = (await made.json()) as { id: string };
  await expect.poll(async () => ((await (await page.request.get(`/api/jobs/${id}`)).json()) as { state: string }).state, { timeout: 120_000 }).toBe('ready');
  return id;
}

/** A new job of as1-oc-214, on its Sheets stage, all its sheets drawn. @returns its address */
export async function as1Job(page: Page): Promise<string> {
  template ??= as1Template(page);
  const copy = (await (await page.request.post(`/api/jobs/${await template}/duplicate`)).json()) as { id: string };
  await page.goto(`/jobs/${copy.id}/sheets`);
  return drawnJob(page);
}

/** Waits until the first drawing of a dropped file stands whole: its first sheets open while the others are drawn. @returns the address */
export async function drawnJob(page: Page): Promise<string> {
  await page.waitForURL(/\/jobs\/.*\/sheets/, { timeout: 90_000 });
  await page.getByTestId('sheet').waitFor();
  await expect(page.getByText('More sheets:')).toHaveCount(0, { timeout: 90_000 });
  return page.url();
}

/** Waits until the server has kept every change. */
export const kept = (page: Page) => expect(page.getByTestId('kept')).toHaveText('All changes kept');

export async function centreOf(locator: Locator): Promise<Place> {
  const b = (await locator.first().boundingBox())!;
  return { x: b.x + b.width / 2, y: b.y + b.height / 2 };
}

/** Middle of a group's picture on the sheet, page pixels. Views are drawn when their result has come. */
export async function middleOf(page: Page, selector: string): Promise<Place> {
  const picture = page.locator(selector).first();
  await expect.poll(async () => (await picture.boundingBox())?.width ?? 0, { timeout: 30_000 }).toBeGreaterThan(1);
  return centreOf(picture);
}

export async function drag(page: Page, from: Place, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 3 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 3 });
  await page.mouse.up();
}

/** A letter that is a command: it waits until it is clear that no word follows. */
export async function letter(page: Page, key: string): Promise<void> {
  await page.keyboard.press(key);
  await page.waitForTimeout(230);
}
