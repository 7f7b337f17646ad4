/** What is on a sheet, in paper mm from the top left corner, y down. Screen, SVG and PDF draw exactly this. */
export interface DisplayList {
  readonly width: number;
  readonly height: number;
  readonly groups: readonly DisplayGroup[];
}

export type GroupRole = 'frame' | 'title' | 'view' | 'balloon' | 'list';

/** The picture of one record. */
export interface DisplayGroup {
  /** Id of the record, or of the part of the sheet. */
  readonly id: string;
  readonly role: GroupRole;
  /** For assistive technology. */
  readonly label: string;
  /** x, y, width, height. */
  readonly box: readonly [number, number, number, number];
  readonly items: readonly DisplayItem[];
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
  | { readonly kind: 'stroke'; readonly d: string; readonly width: number; readonly dash?: readonly number[]; readonly source?: Source }
  | { readonly kind: 'fill'; readonly d: string; readonly color: string; readonly source?: Source }
  | {
      readonly kind: 'text';
      readonly x: number;
      readonly y: number;
      readonly text: string;
      /** Height of capitals. */
      readonly height: number;
      readonly anchor: 'start' | 'middle' | 'end';
      readonly source?: Source;
    }
  | {
      readonly kind: 'image';
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
      /** Key of a view's shading. */ readonly image: string;
    };
