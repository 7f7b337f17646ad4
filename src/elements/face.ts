import type { Action } from '$lib/shared/action';
import type { Drawing } from '$lib/shared/drawing.svelte';
import type { Press, Tool } from '$lib/sheets/tool';
import type { Tools } from '$lib/sheets/tools.svelte';
import type { Component } from 'svelte';
import type { DrawingDocumentRecord } from '../core/document/records';

/** What the interface shows of one kind of element. */
export interface Face<R extends DrawingDocumentRecord> {
  /** The slip while one is selected. */
  readonly slip: Component<{ drawing: Drawing; tools: Tools; record: R }>;
  /** A bar beside the element while it is selected, at a place in pixels of the desk. */
  readonly grip?: Component<{ drawing: Drawing; tools: Tools; record: R; x: number; y: number; width: number }>;
  /** What can be done as things stand. */
  actions?(drawing: Drawing, tools: Tools): readonly Action[];
  /** Ids of actions that are offered for one of them by a right press. */
  readonly menu?: readonly (string | { readonly label: string; readonly actions: readonly string[] })[];
  /** What a right press at a place offers besides: for the component, the cell or the field there. */
  offers?(record: R, p: Press, drawing: Drawing, tools: Tools): { readonly title?: string; readonly offers: readonly Action[] };
  /** In the slip of several elements of this kind: what they have in common, to be changed for all. */
  readonly common?: Component<{ drawing: Drawing; records: readonly R[] }>;
  /** Tools that make or change such elements on the sheet. */
  tools?(drawing: Drawing, tools: Tools): readonly Tool[];
}
