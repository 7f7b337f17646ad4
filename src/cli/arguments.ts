import { mmPerUnit, UNIT_NAMES } from '../core/assembly/units.ts';
import { QuarryError } from '../core/base/errors.ts';

export interface Arguments {
  readonly verb: string;
  readonly files: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

const FLAGS = new Set(['hidden', 'tangent', 'centrelines', 'package']);
const VALUES = new Set([
  'direction',
  'spread',
  'svg',
  'plane',
  'line',
  'on',
  'unit',
  'up',
  'time-limit',
  'keep-whole',
  'within',
  'interrupt',
  'only',
  'without',
  'turn',
  'normal',
  'at',
  'out',
  'sheet',
  'standard',
  'drawing',
  'language',
  'part',
  'recipe',
  'format',
  'k',
]);

/** @throws QuarryError BAD_USAGE for an unknown option or one without its value */
export function parseArguments(argv: readonly string[]): Arguments {
  const files: string[] = [];
  const options = new Map<string, string>();
  for (let i = 1; i < argv.length; i++) {
    const a = argv[i]!;
    if (!a.startsWith('--')) {
      files.push(a);
      continue;
    }
    const [name, inline] = a.slice(2).split(/=(.*)/s) as [string, string | undefined];
    if (FLAGS.has(name)) options.set(name, 'yes');
    else if (VALUES.has(name)) {
      const value = inline ?? argv[++i];
      if (value === undefined) throw new QuarryError('BAD_USAGE', { text: `--${name} needs a value.` });
      options.set(name, value);
    } else throw new QuarryError('BAD_USAGE', { text: `Unknown option --${name}.` });
  }
  const limit = options.get('time-limit');
  if (limit !== undefined && !(Number(limit) > 0)) throw new QuarryError('BAD_USAGE', { text: '--time-limit takes a number of seconds.' });
  return { verb: argv[0] ?? '', files, options };
}

/** As the server's limit: QUARRY_IMPORT_TIMEOUT_S, 300 s unless said otherwise. */
export function readingLimitMs(argv: readonly string[]): number {
  const at = argv.findIndex((a) => a === '--time-limit' || a.startsWith('--time-limit='));
  const given = at < 0 ? process.env['QUARRY_IMPORT_TIMEOUT_S'] : (argv[at]!.split('=')[1] ?? argv[at + 1]);
  const seconds = Number(given ?? 300);
  // A timer of more than 24 days would fire at once.
  return seconds > 0 ? Math.min(seconds * 1000, 2 ** 31 - 1) : 300_000;
}

/** What the options say of unit and axis, where they say it. @throws QuarryError BAD_USAGE */
export function unitOptions(args: Arguments): { readonly unitMm: number | undefined; readonly up: 'y' | 'z' } {
  const [unit, up] = [args.options.get('unit'), args.options.get('up') ?? 'z'];
  const unitMm = unit === undefined ? undefined : mmPerUnit(unit);
  if ((unit !== undefined && unitMm === undefined) || (up !== 'y' && up !== 'z'))
    throw new QuarryError('BAD_USAGE', { text: `--unit takes one of ${UNIT_NAMES.join(', ')}, --up y or z.` });
  return { unitMm, up };
}
