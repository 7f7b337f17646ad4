// npm test: sets up what is missing, then everything: format, lint, types, unit, database, browser. Ends with "N passed, N failed".
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureChromium, ensurePoppler, ensurePostgres, installPackages, root, say } from './install.mjs';
import { freePort, startCluster } from './cluster.mjs';

const began = performance.now();
ensurePostgres();
const chromium = ensureChromium();
ensurePoppler();
await installPackages();
const { buildAll } = await import('./build.mjs');
const { environmentFor, runNode, startServer } = await import('./serve.mjs');

let passed = 0;
let failed = 0;
const took = (t) => `${((performance.now() - t) / 1000).toFixed(1)} s`;
const tool = (name) => join(root, 'node_modules', '.bin', name);

/** One check that counts as one; several run side by side. */
async function check(name, command, args) {
  const t = performance.now();
  const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
  let words = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (d) => (words += d));
  const code = await new Promise((resolve) => child.once('close', resolve));
  if (code === 0) passed++;
  else {
    failed++;
    console.log(words);
  }
  console.log(`${code === 0 ? 'passed' : 'FAILED'}  ${name} (${took(t)})`);
}

/** A runner that writes a report. */
function suite(name, command, args, env, report, count) {
  const t = performance.now();
  rmSync(join(root, report), { force: true });
  const r = spawnSync(command, args, { cwd: root, stdio: 'inherit', env });
  const file = join(root, report);
  const n = existsSync(file) ? count(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
  passed += n.passed;
  failed += n.failed + (r.status !== 0 && n.failed === 0 ? 1 : 0);
  console.log(`${name}: ${n.passed} passed, ${n.failed} failed (${took(t)})`);
}

// Types of the routes are generated.
spawnSync(tool('svelte-kit'), ['sync'], { cwd: root, stdio: 'ignore' });
run: {
  // As many lanes as there are cores to go on.
  await Promise.all([
    (async () => {
      await check('format', tool('prettier'), ['--check', '.']);
      await check('lint', tool('eslint'), ['.']);
    })(),
    (async () => {
      await check('types of the core in its poor world', tool('tsc'), ['-p', 'src/core']);
      await check('types of kernel, formats, server and command line', tool('tsc'), ['-p', 'tsconfig.node.json']);
      await check('types of the interface', tool('svelte-check'), ['--fail-on-warnings']);
    })(),
  ]);
  await buildAll();
  const home = mkdtempSync(join(tmpdir(), 'quarry-test-'));
  const cluster = await startCluster(home, { quick: true });
  let server;
  try {
    const env = environmentFor(cluster.url, await freePort(), { QUARRY_LOG: 'error', CHROMIUM: chromium });
    suite('unit, kernel and database', tool('vitest'), ['run'], env, 'test-results/unit.json', (r) => ({
      passed: r.numPassedTests,
      failed: r.numFailedTests + (r.numFailedTestSuites && !r.numFailedTests ? 1 : 0),
    }));
    if (process.argv.includes('--no-browser')) break run;
    // A database of its own: jobs of the tests before are none of its business.
    const fresh = cluster.url.replace(/quarry$/, 'e2e');
    cluster.createDatabase('e2e');
    const webEnv = { ...env, DATABASE_URL: fresh };
    runNode('migrate.js', [], webEnv);
    server = await startServer(webEnv);
    suite('browser', tool('playwright'), ['test'], { ...webEnv, QUARRY_URL: server.address }, 'test-results/e2e.json', (r) => ({
      passed: r.stats.expected + r.stats.flaky,
      failed: r.stats.unexpected,
    }));
  } finally {
    await server?.stop();
    await cluster.stop();
    rmSync(home, { recursive: true, force: true });
  }
}
say(`All in ${took(began)}.`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);
