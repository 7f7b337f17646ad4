/** A set of components that comes off as one: a sub-assembly, a component, or two that only move together. */
export interface Unit {
  readonly product: string;
  readonly components: readonly number[];
  readonly volume: number;
  readonly fastener: boolean;
  /** What it is made of; empty for a single component. */
  readonly parts: readonly Unit[];
}

/** Several as one. */
export function unite(product: string, parts: readonly Unit[]): Unit {
  return {
    product,
    components: parts.flatMap((p) => p.components),
    volume: parts.reduce((s, p) => s + p.volume, 0),
    fastener: parts.every((p) => p.fastener),
    parts,
  };
}
