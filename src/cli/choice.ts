import type { Assembly, Component } from '../core/assembly/assembly.ts';
import { componentsOf } from '../core/assembly/components.ts';
import { QuarryError } from '../core/base/errors.ts';
import type { Arguments } from './arguments.ts';

/**
 * Components that `--only` or `--without` leave out. A name means components, parts and sub-assemblies that are called so;
 * a path means one.
 * @throws QuarryError BAD_USAGE for both at once, and for a name that nothing has
 */
export function leftOutOf(args: Arguments, assembly: Assembly): number[] {
  const [only, without] = [args.options.get('only'), args.options.get('without')];
  if (only !== undefined && without !== undefined) throw new QuarryError('BAD_USAGE', { text: 'Take either --only or --without.' });
  const text = only ?? without;
  if (text === undefined) return [];
  const components = componentsOf(assembly);
  const named = new Set<number>();
  for (const name of text
    .split(',')
    .map((t) => t.trim())
    .filter(Boolean)) {
    const found = components.filter((c) => isCalled(c, name, assembly));
    if (found.length === 0) throw new QuarryError('BAD_USAGE', { text: `Nothing is called “${name}”. The verb inspect lists the names.` });
    for (const c of found) named.add(c.index);
  }
  const left = components.filter((c) => named.has(c.index) !== (only !== undefined)).map((c) => c.index);
  if (left.length === components.length) throw new QuarryError('BAD_USAGE', { text: 'Nothing would be left to see.' });
  return left;
}

function isCalled(c: Component, name: string, assembly: Assembly): boolean {
  if (c.path.startsWith(`${name}/`)) return true;
  if (c.name === name || c.path === name || assembly.parts[c.part]!.name === name) return true;
  for (let n = assembly.nodes[c.node]!.parent; n >= 0; n = assembly.nodes[n]!.parent) if (assembly.nodes[n]!.name === name) return true;
  return false;
}
