import type { Vec2 } from '$core/base/vector';

/** The pointer on the sheet. */
export interface Press {
  /** Paper mm. */
  readonly at: Vec2;
  /** What a press may be off, paper mm: a few pixels. */
  readonly grace: number;
}

/** A shape that shows what a tool is about to do, paper mm. */
export type Sketch =
  | { readonly kind: 'line'; readonly points: readonly Vec2[]; readonly look: 'thin' | 'cutting' | 'outline'; readonly id?: string }
  | { readonly kind: 'circle'; readonly at: Vec2; readonly radius: number; readonly id?: string }
  /** A ring of a few pixels whatever the zoom. */
  | { readonly kind: 'ring'; readonly at: Vec2; readonly id?: string };

/**
 * What the pointer does on the sheet: the canvas knows pan, zoom and the tool in hand, nothing else. Whatever a tool shows
 * while it works is its own affair; it makes one edit when the gesture ends.
 */
export interface Tool {
  readonly name: string;
  /** The pointer is for aiming, not for picking. */
  readonly aims: boolean;
  /** @returns false when the press is none of its business: the sheet is panned then */
  down(p: Press): boolean;
  /** Also while nothing is pressed. */
  move(p: Press): void;
  up(p: Press): void;
  /** A double press. */
  finish?(): void;
  /** Takes back what is being done. @returns false when there was nothing */
  cancel(): boolean;
  sketches(): readonly Sketch[];
}
