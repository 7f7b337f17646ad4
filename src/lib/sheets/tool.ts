import type { Rect } from '$core/base/rect';
import type { Vec2 } from '$core/base/vector';
import type { DisplayItem } from '$core/picture/display-list';
import type { Component } from 'svelte';
import type { Drawing } from '../shared/drawing.svelte';
import type { Tools } from './tools.svelte';

/** The pointer on the sheet. */
export interface Press {
  /** Paper mm. */
  readonly at: Vec2;
  /** What a press may be off, paper mm: a few pixels. */
  readonly grace: number;
  /** Shift: what is pressed joins what is selected, or leaves it. */
  readonly add?: boolean;
  /** Alt: nothing is brought into line; a window takes what it touches. */
  readonly free?: boolean;
  /** A finger: on empty paper it moves the sheet. */
  readonly finger?: boolean;
}

/** A shape that shows what a tool is about to do, paper mm. */
export type Sketch =
  | { readonly kind: 'line'; readonly points: readonly Vec2[]; readonly look: 'thin' | 'cutting' | 'outline' | 'guide'; readonly id?: string }
  /** A window that is drawn to select what lies in it, or what it touches. */
  | { readonly kind: 'window'; readonly box: Rect; readonly touches: boolean }
  | { readonly kind: 'circle'; readonly at: Vec2; readonly radius: number; readonly id?: string }
  /** Straight lines in one: flat `[x0, y0, x1, y1, …]`. */
  | { readonly kind: 'lines'; readonly segments: Float64Array }
  | { readonly kind: 'text'; readonly at: Vec2; readonly text: string }
  /** An arrow of a few pixels whatever the zoom. @param way on paper, y down */
  | { readonly kind: 'knob'; readonly at: Vec2; readonly way: Vec2; readonly id: string }
  /** What would be drawn. */
  | { readonly kind: 'items'; readonly items: readonly DisplayItem[]; readonly id?: string }
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
  /** A key that is pressed while it is in hand, before actions get it. @returns whether it was meant for the tool */
  key?(key: string): boolean;
  /** The wheel, unless Ctrl is held: what is zoomed is the sheet otherwise. @returns whether it was meant for the tool */
  wheel?(up: boolean): boolean;
  /** What the slip shows while it is in hand. */
  readonly panel?: Component<{ drawing: Drawing; tools: Tools; tool: Tool }>;
}
