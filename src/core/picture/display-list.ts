import type { Rect, Segment } from '../base/rect.ts';
import type { Solid } from './solid.ts';

/** What is on a sheet, in paper mm from the top left corner, y down. Screen, SVG and PDF draw exactly this. */
export interface DisplayList<G extends DisplayGroup = DisplayGroup> {
  readonly width: number;
  readonly height: number;
  readonly groups: readonly G[];
}

/** The picture of one record, or of one of its pieces. */
export interface DisplayGroup {
  /** Id of the record, or of the part of the sheet. */
  readonly id: string;
  /** What it is for readers of a file: the kind of its record, or the part of the sheet. */
  readonly role: string;
  /** A layer of the drafter's own that it lies on; absent: that of its kind. */
  readonly layer?: string;
  /** For assistive technology. */
  readonly label: string;
  /** What is taken hold of and shown as selected, paper mm: x, y, width, height. */
  readonly box: readonly [number, number, number, number];
  readonly items: readonly DisplayItem[];
}

/** A picture together with what is known of the place it takes. */
export interface Drawn extends DisplayGroup {
  /** All that prints of it. */
  readonly ink: Rect;
  /** Where it is taken hold of, if that is more than its box. */
  readonly grab?: Rect;
  /** … and lines on which it is taken hold of too. */
  readonly grabLines?: readonly Segment[];
  /** What others keep clear of it. */
  readonly solid: Solid;
}

/** Where an item comes from: for picking and highlighting. */
export interface Source {
  readonly component?: number;
  /** Item number. */
  readonly item?: number;
  /** Title-block field or list column. */
  readonly field?: string;
}

export type DisplayItem =
  | {
      readonly kind: 'stroke';
      readonly d: string;
      readonly width: number;
      readonly dash?: readonly number[];
      /** Black unless said. */ readonly color?: string;
      readonly source?: Source;
    }
  | { readonly kind: 'fill'; readonly d: string; readonly color: string; readonly source?: Source }
  | {
      readonly kind: 'text';
      readonly x: number;
      readonly y: number;
      readonly text: string;
      /** Height of capitals. */
      readonly height: number;
      readonly anchor: 'start' | 'middle' | 'end';
      /** Turned about (x, y) against the clock, degrees; level unless said. */
      readonly turn?: number;
      readonly bold?: true;
      /** Black unless said. */
      readonly color?: string;
      readonly source?: Source;
    }
  | {
      readonly kind: 'image';
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
      /** Key of a view's shading, or the picture itself as a `data:` address. */ readonly image: string;
      /** What is shown of it: a path on paper. */
      readonly clip?: string;
    };
