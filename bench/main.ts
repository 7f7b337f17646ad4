import { benchCut } from './cut.ts';
import { benchExplode } from './explode.ts';
import { benchImport } from './import.ts';
import { benchOutline } from './outline.ts';
import { benchSheet } from './sheet.ts';

/** npm run bench -- outline|cut|import|explode|sheet [--long]: one JSON line per case, ratios measured in the same run. */
const benches: Readonly<Record<string, (long: boolean) => Promise<void>>> = {
  outline: benchOutline,
  cut: benchCut,
  import: benchImport,
  explode: benchExplode,
  // Wants a database: `sheet` starts one, and goes on in the browser.
  'sheet-core': benchSheet,
};
const [name = '', ...rest] = process.argv.slice(2);
const bench = benches[name];
if (!bench) {
  process.stderr.write(`Usage: npm run bench -- ${Object.keys(benches).join('|')} [--long]\n`);
  process.exitCode = 2;
} else await bench(rest.includes('--long'));
