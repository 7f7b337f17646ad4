// npm run bench -- sheet: a job of 1,000 components, 200 sheets, 400 views and 2,000 balloons, measured in core, server and browser.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { buildAll } from './build.mjs';
import { freePort, startCluster } from './cluster.mjs';
import { findChromium, root } from './install.mjs';
import { environmentFor, runNode, startServer } from './serve.mjs';

const say = (line) => console.log(JSON.stringify(line));
const median = (list) => Number([...list].sort((a, b) => a - b)[list.length >> 1].toFixed(2));

export async function benchSheet() {
  await buildAll();
  const home = mkdtempSync(join(tmpdir(), 'quarry-bench-'));
  const cluster = await startCluster(home, { quick: true });
  let server;
  try {
    const env = environmentFor(cluster.url, await freePort(), { QUARRY_LOG: 'error' });
    runNode('migrate.js', [], env);
    const filled = spawnSync(process.execPath, ['--max-old-space-size=4000', join(root, 'scripts', 'bench.mjs'), 'sheet-core'], {
      cwd: root,
      env,
      encoding: 'utf8',
      maxBuffer: 1 << 26,
    });
    process.stdout.write(filled.stdout);
    if (filled.status !== 0) throw new Error(filled.stderr);
    const { job } = JSON.parse(filled.stdout.trim().split('\n').at(-1));
    server = await startServer(env);
    await inBrowser(`${server.address}/jobs/${job}/sheets`);
  } finally {
    await server?.stop();
    await cluster.stop();
    rmSync(home, { recursive: true, force: true });
  }
}

async function inBrowser(address) {
  const browser = await chromium.launch({ executablePath: findChromium(), args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    let transferred = 0;
    const session = await page.context().newCDPSession(page);
    await session.send('Network.enable');
    const views = new Map();
    session.on('Network.responseReceived', (e) => e.response.url.includes('/views/') && views.set(e.requestId, 0));
    session.on('Network.loadingFinished', (e) => {
      transferred += e.encodedDataLength;
      if (views.has(e.requestId)) views.set(e.requestId, e.encodedDataLength);
    });
    const drawn = () =>
      page.waitForFunction(
        () =>
          [...document.querySelectorAll('[data-testid=sheet] [data-role=view]')].every((g) => g.querySelector('path')) &&
          document.querySelector('[data-testid=sheet] [data-role=view]'),
      );
    const open = async () => {
      // As a user comes: from the list of jobs, which has nothing more to do.
      await page.goto(new URL('/', address).href);
      await page.waitForTimeout(1000);
      transferred = 0;
      views.clear();
      await page.goto(address, { waitUntil: 'commit' });
      await drawn();
      return page.evaluate(() => performance.now());
    };
    await open();
    const times = [];
    for (let i = 0; i < 5; i++) times.push(await open());
    say({ case: 'browser: stored sheet opened, ms from request to all of it drawn (median of 5)', ms: median(times) });
    say({
      case: 'browser: transferred for that, kB; largest view, kB',
      kB: Math.round(transferred / 1000),
      view: Math.round(Math.max(...views.values()) / 1000),
    });
    await page.waitForTimeout(2500);

    // Main thread: from the event until the change stands in the page. Svelte writes it in a microtask.
    const script = (work, times) =>
      page.evaluate(
        async ([work, times]) => {
          const act = new Function('i', `return (${work})(i)`);
          const all = [];
          for (let i = 0; i < times; i++) {
            const t = performance.now();
            act(i);
            for (let k = 0; k < 5; k++) await Promise.resolve();
            all.push(performance.now() - t);
            await new Promise((r) => requestAnimationFrame(r));
          }
          return all;
        },
        [`${work}`, times],
      );
    await page.evaluate(() => {
      window.desk = document.querySelector('[role=application]');
      window.sheet = document.querySelector('[data-testid=sheet]');
    });
    await page.locator('[data-role=balloon]').first().focus();
    await page.keyboard.press('Enter');
    const press = (type, key) => `(i) => desk.dispatchEvent(new KeyboardEvent('${type}', { key: '${key}', bubbles: true }))`;
    // A step of the drag, and letting go: the edit itself.
    const moves = await script(press('keydown', 'ArrowRight'), 10);
    const edits = [];
    for (let i = 0; i < 10; i++) {
      await script(press('keydown', 'ArrowRight'), 1);
      edits.push(...(await script(press('keyup', 'ArrowRight'), 1)));
      await page.waitForTimeout(120);
    }
    say({ case: 'browser: a balloon moved by one step, ms of script (median of 10)', ms: median(moves) });
    say({ case: 'browser: the edit when it is let go, ms of script (median, worst of 10)', ms: median(edits), worst: Number(Math.max(...edits).toFixed(2)) });

    await page.keyboard.press('Escape');
    await page.keyboard.press('PageDown');
    await page.waitForFunction(() => document.querySelector('[data-id="view:1.0"] path'));
    await page.waitForTimeout(3000);
    await page.evaluate(() => {
      window.desk = document.querySelector('[role=application]');
      window.sheet = document.querySelector('[data-testid=sheet]');
    });
    const zooms = await script(
      `(i) => desk.dispatchEvent(new WheelEvent('wheel', { deltaY: i % 2 ? 40 : -40, clientX: 600, clientY: 300, bubbles: true, cancelable: true }))`,
      30,
    );
    const pan = (type, x) =>
      `(i) => sheet.dispatchEvent(new PointerEvent('${type}', { pointerId: 1, button: 1, buttons: 4, clientX: ${x}, clientY: 300, bubbles: true }))`;
    await page.evaluate(() => (Element.prototype.setPointerCapture = () => {}));
    await script(pan('pointerdown', 600), 1);
    const pans = await script(pan('pointermove', '600 + i'), 30);
    await script(pan('pointerup', 630), 1);
    say({
      case: 'browser: zoom on 54,000 line runs, ms of script per frame (median, worst of 30)',
      ms: median(zooms),
      worst: Number(Math.max(...zooms).toFixed(2)),
    });
    say({
      case: 'browser: pan on 54,000 line runs, ms of script per frame (median, worst of 30)',
      ms: median(pans),
      worst: Number(Math.max(...pans).toFixed(2)),
    });

    const rows = [];
    for (let i = 0; i < 5; i++) {
      await page.keyboard.press('[');
      await page.waitForTimeout(200);
      rows.push(
        await page.evaluate(async () => {
          const t = performance.now();
          document.querySelector('button[aria-label="Show the ledger"]').click();
          while (!document.querySelector('[data-part]')) await new Promise((r) => setTimeout(r, 0));
          return performance.now() - t;
        }),
      );
    }
    say({ case: 'browser: ledger of 1,000 items: first rows, ms (median of 5)', ms: median(rows) });
  } finally {
    await browser.close();
  }
}
