import { QuarryError } from '../core/base/errors.ts';

export interface Arguments {
  readonly verb: string;
  readonly files: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

const FLAGS = new Set(['hidden', 'tangent']);
const VALUES = new Set(['direction', 'spread', 'svg', 'plane', 'line', 'on', 'unit', 'up', 'keep-whole', 'out', 'sheet', 'standard']);

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
  return { verb: argv[0] ?? '', files, options };
}
