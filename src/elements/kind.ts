import type { Rect } from '../core/base/rect.ts';
import type { Vec2 } from '../core/base/vector.ts';
import type { DrawingDocumentRecord } from '../core/document/records.ts';
import type { Step } from '../core/document/steps.ts';
import type { Drawn } from '../core/picture/display-list.ts';
import type { Finding } from '../core/proof/finding.ts';
import type { Change } from './change.ts';
import type { Scene } from './scene.ts';

/** A place of an element that can be taken hold of, paper mm. */
export interface Handle {
  readonly name: string;
  readonly at: Vec2;
}

/** A place beside an element from which a tool begins when it is dragged. */
export interface Knob extends Handle {
  /** Name of the tool. */
  readonly tool: string;
  /** Where it points, on paper: x to the right, y down. */
  readonly way: Vec2;
}

/** What a press on an element means. */
export type Pressed =
  | { readonly kind: 'item'; readonly part: string; readonly component?: number; readonly view?: string }
  /** @param part of it that was pressed, as the element names it */
  | { readonly kind: 'record'; readonly id: string; readonly part?: string }
  | { readonly kind: 'field'; readonly field: string };

/** A text that can be changed where it stands. */
export interface EditableText {
  /** Of the text within its element: `title`, `part/description`. */
  readonly name: string;
  /** For people: “Title”, “Material of item 3”. */
  readonly label: string;
  /** Where it is written, paper mm. */
  readonly box: Rect;
  /** Height of its capitals, paper mm. */
  readonly height: number;
  readonly value: string;
  /** It may have several lines: in a note Enter begins the next one, in a cell Shift with Enter. */
  readonly lines?: 'note' | 'cell';
  /** The steps that write another text; none when it cannot be taken. @param now ISO 8601 */
  write(text: string, now: string): readonly Step[];
}

/**
 * Everything the drawing needs to know of one kind of element. Its record says what it is made of and what it points at;
 * what it looks like, how it is moved, how it follows what it belongs to, and what a checker would mark stands here.
 */
export interface Kind<R extends DrawingDocumentRecord> {
  /** For people, in the singular: “balloon”. */
  readonly title: string;
  /** Lower ones are drawn first. */
  readonly layer: number;
  draw(record: R, scene: Scene): readonly Drawn[];
  handles?(record: R, scene: Scene): readonly Handle[];
  /** What a press at a place means when it is more than the element itself. @param grace what a press may be off, paper mm */
  press?(record: R, at: Vec2, scene: Scene, grace: number): Pressed | undefined;
  knobs?(record: R, scene: Scene): readonly Knob[];
  /** Small signs of what it is bound to, shown while it is selected. */
  signs?(record: R, scene: Scene): readonly { readonly at: Vec2; readonly text: string }[];
  /**
   * The steps of dragging it, paper mm; none when it cannot go there.
   * @param handle that is dragged; undefined: the element itself
   */
  drag?(record: R, by: Vec2, scene: Scene, handle?: string): readonly Step[];
  /** Its texts that can be changed where they stand, in the order in which they are read. */
  texts?(record: R, scene: Scene): readonly EditableText[];
  /** The record after a change of what it belongs to; the same object if nothing changes. */
  follow?(record: R, change: Change): R;
  /** What a checker would mark of the elements of this kind that stand on a sheet. */
  findings?(records: readonly R[], sheet: string, scene: Scene): readonly Finding[];
}
