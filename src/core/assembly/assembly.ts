import type { Placement } from '../base/placement.ts';
import type { Notice } from '../base/errors.ts';
import type { NameSource } from './naming.ts';
import type { Stated } from './stated.ts';

/** A distinct part: however often it is used, it is stored once. */
export interface Part {
  /** Stable inside one assembly. */
  readonly id: string;
  readonly name: string;
  /** Where the name was taken from. */
  readonly nameFrom?: NameSource;
  /** Hash of its geometry's content. */
  readonly geometryKey: string;
  readonly volumeMm3: number;
  readonly areaMm2: number;
  readonly centroid: readonly [number, number, number];
  readonly box: readonly number[];
  /** sRGB `#rrggbb`. */
  readonly color?: string;
  /** What the file says: user-defined properties, material, density (kg/m³). */
  readonly properties: Readonly<Record<string, string>>;
  readonly material?: string;
  readonly densityKgM3?: number;
  /** Which entities of the file say so: that of the product (`name`), of its material, of each property; such as `#120`. */
  readonly entities?: Readonly<Record<string, string>>;
  /** The standard part that its shape is, such as `nut`. */
  readonly looksLike?: string;
  /** Sizes and tolerances that the file states on its faces. */
  readonly stated?: Stated;
}

/** A node of the tree: a sub-assembly (with children) or a component (a part in a place). */
export interface AssemblyNode {
  /** Index of the parent in `Assembly.nodes`; -1 for the root. Parents come before their children. */
  readonly parent: number;
  readonly name: string;
  /** Name of the product it is an occurrence of; equal for repeated sub-assemblies. */
  readonly product: string;
  /** What the file calls this very occurrence, where it says something. */
  readonly occurrence?: string;
  /** Relative to the parent. */
  readonly placement: Placement;
  /** Index in `Assembly.parts`, -1 for a sub-assembly. */
  readonly part: number;
  readonly color?: string;
}

/** The neutral model: mm, Z up. */
export interface Assembly {
  readonly name: string;
  readonly schema: string;
  /** Unit of the file, such as `mm` or `inch`; lengths here are mm whatever it is. */
  readonly unit: string;
  readonly parts: readonly Part[];
  readonly nodes: readonly AssemblyNode[];
  readonly properties: Readonly<Record<string, string>>;
  readonly notices: readonly Notice[];
  /** Volumes that the file states for checking, mm³ by product name. */
  readonly statedVolumes?: Readonly<Record<string, number>>;
}

/** A component: a leaf of the tree with its place in the whole. */
export interface Component {
  /** Index in the list returned by `componentsOf`. */
  readonly index: number;
  /** Index in `Assembly.nodes`. */
  readonly node: number;
  readonly part: number;
  /** Node names from below the root, joined with `/`, repeated names numbered: unique and stable. */
  readonly path: string;
  readonly name: string;
  readonly placement: Placement;
}
