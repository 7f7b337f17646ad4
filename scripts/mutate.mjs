// npm run mutate -- ROOM [--sample 60] [--seed 1] [--workers 2] [FILE:FROM-TO …]
// Puts slips into a room's code, one at a time, and runs its tests: what lives was not tested. See docs/testing.md.
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Stryker } from '@stryker-mutator/core';
import { Instrumenter } from '@stryker-mutator/instrumenter';
import { root } from './install.mjs';

/** Tests of other rooms that go through a room too. */
const ALSO = {
  'core/base': ['src/core/explode/**', 'src/elements/balloon/**', 'src/core/views/**', 'src/formats/**'],
  'core/assembly': ['src/core/document/rescale.test.ts', 'src/core/revision/**', 'src/formats/readers/**', 'src/core/ledger/**'],
  'core/picture': ['src/elements/**', 'src/core/ledger/exchange.test.ts', 'src/formats/writers.test.ts'],
  'core/sheet': ['src/elements/**'],
  'elements/balloon': ['src/core/proof/**', 'src/elements/*.test.ts', 'src/lib/sheets/**'],
  'elements/view': ['src/elements/*.test.ts', 'src/lib/sheets/**', 'src/core/document/**'],
  'elements/list': ['src/elements/*.test.ts', 'src/core/ledger/**'],
  'elements/sheet': ['src/elements/*.test.ts'],
  'elements/centre': ['src/core/revision/**'],
  'core/document': ['src/core/revision/**', 'src/core/explode/choose.test.ts', 'src/core/draft/new-view.test.ts'],
  'core/shade': ['src/core/views/**'],
  'core/cut': ['src/core/views/**', 'src/elements/view/**'],
  'core/outline': ['src/core/views/**', 'src/core/shade/**'],
  'core/views': ['src/elements/view/**'],
  'core/draft': ['src/core/proof/**'],
  'core/ledger': ['src/formats/tables.test.ts'],
  formats: ['src/elements/**'],
  server: ['src/routes/**'],
};

const [room, ...rest] = process.argv.slice(2);
if (!room || room.startsWith('--')) {
  console.error(
    'Usage: npm run mutate -- ROOM [--sample 60] [--seed 1] [--workers 2] [FILE:FROM-TO …], with a ROOM such as core/picture, formats, kernel, server',
  );
  process.exit(2);
}
const option = (name, otherwise) => {
  const at = rest.indexOf(`--${name}`);
  return at < 0 ? otherwise : Number(rest.splice(at, 2)[1]);
};
const [sample, seed, workers] = [option('sample', 60), option('seed', 1), option('workers', 2)];

const isCode = (f) => f.endsWith('.ts') && !f.endsWith('.test.ts') && !f.endsWith('.d.ts') && !f.includes('/testing/');
const filesIn = (dir) =>
  readdirSync(join(root, dir)).flatMap((n) => {
    const f = `${dir}/${n}`;
    return statSync(join(root, f)).isDirectory() ? filesIn(f) : isCode(f) ? [f] : [];
  });

/** Numbers 0…1 that are the same every time (mulberry32). */
function random(n) {
  return () => {
    n = (n + 0x6d2b79f5) | 0;
    let t = Math.imul(n ^ (n >>> 15), 1 | n);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const MOST_IN_RANGE = 3;

/** A seeded sample of the slips that can be made in the room, as ranges that Stryker takes. */
async function sampled() {
  const silent = new Proxy({}, { get: (_, k) => (String(k).startsWith('is') ? () => false : () => undefined) });
  const files = filesIn(`src/${room}`).map((name) => ({ name, content: readFileSync(join(root, name), 'utf8'), mutate: true }));
  const { mutants } = await new Instrumenter(silent).instrument(files, { plugins: null, excludedMutations: EXCLUDED, ignorers: [] });
  // Slips in what is computed once when the file is loaded would run every test.
  const own = mutants.filter((m) => !m.status);
  const before = (p, q) => p.line < q.line || (p.line === q.line && p.column <= q.column);
  const inside = (m, o) => m.fileName === o.fileName && before(o.location.start, m.location.start) && before(m.location.end, o.location.end);
  const next = random(seed);
  const chosen = new Map();
  for (let tries = 0; chosen.size < sample && tries < 50 * sample; tries++) {
    const m = own[Math.floor(next() * own.length)];
    // A range takes all slips inside it with it: whole functions are left out, what is in them is not.
    if (own.filter((o) => inside(o, m)).length > MOST_IN_RANGE) continue;
    const { start, end } = m.location;
    chosen.set(`${m.fileName}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`, true);
  }
  console.log(`${own.length} slips can be made in src/${room}; ${chosen.size} places are tried.`);
  return [...chosen.keys()];
}

/** Texts are for people: a test that pins every word would only repeat the code. */
const EXCLUDED = ['StringLiteral'];

const report = `reports/mutation/${room.replace('/', '-')}`;
const keyOf = (r) => `${r.fileName}:${r.location.start.line}:${r.location.start.column}:${r.location.end.column}:${r.replacement}`;
const nameOf = (r) => r.fileName.replace(`${root}/`, '');
/** Results count columns from 1, ranges from 0. */
const rangeOf = (r) => `${nameOf(r)}:${r.location.start.line}:${r.location.start.column - 1}-${r.location.end.line}:${r.location.end.column - 1}`;
const LIVED = ['Survived', 'NoCoverage'];

/** Is the result about one of the ranges? Stryker keeps what earlier runs found elsewhere in the room. */
const within = (ranges) => {
  const wanted = ranges.map((r) => {
    const [, file, ...at] = /^(.*?)(?::(\d+)(?::(\d+))?-(\d+)(?::(\d+))?)?$/.exec(r);
    const [l0 = 0, c0 = 0, l1 = Infinity, c1 = Infinity] = at.map((v) => (v === undefined ? undefined : Number(v)));
    return { file, l0, c0, l1, c1 };
  });
  return (r) => {
    const { start, end } = r.location;
    return wanted.some(
      (w) =>
        w.file === nameOf(r) &&
        (start.line > w.l0 || (start.line === w.l0 && start.column - 1 >= w.c0)) &&
        (end.line < w.l1 || (end.line === w.l1 && end.column - 1 <= w.c1)),
    );
  };
};

/** Runs the tests of some globs against the slips in some ranges; `loading` also those slips that only act while tests are loaded. */
async function run(ranges, globs, name, loading) {
  process.env.MUTATE_TESTS = globs.map((g) => (g.endsWith('.test.ts') ? g : `${g}/*.test.ts`)).join(',');
  const results = await new Stryker({
    mutate: ranges,
    testRunner: 'vitest',
    plugins: ['@stryker-mutator/vitest-runner'],
    vitest: { configFile: 'vitest.mutate.config.ts', related: false },
    mutator: { excludedMutations: EXCLUDED },
    coverageAnalysis: 'perTest',
    ignoreStatic: !loading,
    incremental: true,
    incrementalFile: `${name}.incremental.json`,
    concurrency: workers,
    timeoutMS: 15_000,
    timeoutFactor: 3,
    dryRunTimeoutMinutes: 20,
    tempDirName: '.stryker-tmp',
    // The sandbox needs the types of the routes, which Stryker leaves out by itself.
    ignorePatterns: ['!.svelte-kit', 'data', 'docs', 'e2e', 'reports', 'build/app', 'test-results', 'bench'],
    reporters: ['html'],
    htmlReporter: { fileName: `${name}.html` },
    disableTypeChecks: false,
    allowConsoleColors: false,
  }).runMutationTest();
  return results.filter(within(ranges));
}

mkdirSync(join(root, 'reports/mutation'), { recursive: true });
const first = await run(rest.length ? rest : await sampled(), [`src/${room}/**`], report, false);
// What lives is tried once more: with what tests share and compute while they are loaded, and with the neighbours' tests.
const open = first.filter((r) => LIVED.includes(r.status));
const wider = open.length ? await run(open.map(rangeOf), [`src/${room}/**`, ...(ALSO[room] ?? [])], `${report}.wider`, true) : [];
const caught = new Set(wider.filter((r) => r.status === 'Killed' || r.status === 'Timeout').map(keyOf));
const results = first.map((r) => (caught.has(keyOf(r)) ? { ...r, status: 'Killed' } : r));

const count = (...s) => results.filter((r) => s.includes(r.status)).length;
const [killed, lived] = [count('Killed', 'Timeout'), count(...LIVED)];
const line = {
  room,
  date: new Date().toISOString().slice(0, 10),
  seed,
  valid: killed + lived,
  killed,
  share: Math.round((100 * killed) / Math.max(1, killed + lived)),
};
const survivors = results
  .filter((r) => LIVED.includes(r.status))
  .map((r) => ({
    at: `${nameOf(r)}:${r.location.start.line}:${r.location.start.column}`,
    slip: r.mutatorName,
    to: r.replacement,
    status: r.status,
  }));
writeFileSync(join(root, `${report}.json`), JSON.stringify({ ...line, lived: survivors }, null, 1));
for (const m of survivors) console.log(`${m.at}  ${m.status === 'NoCoverage' ? 'no test goes there' : 'lived'}: ${m.to.replace(/\s+/g, ' ').slice(0, 100)}`);
console.log(`${room}: ${killed} of ${line.valid} slips were caught, ${line.share} %. Report: ${report}.html`);
