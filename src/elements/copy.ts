import { dot, type Vec2 } from '../core/base/vector.ts';
import type { DrawingDocumentRecord, ViewRecord } from '../core/document/records.ts';
import { followed } from '../core/document/refs.ts';
import type { Step } from '../core/document/steps.ts';
import { isElement } from './kinds.ts';
import { homeOf, type Scene } from './scene.ts';
import { lettersOf, nextLetter } from './view/letters.ts';
import { shiftedView } from './view/move.ts';

/** Elements together with all that belongs to them, those first that others belong to. */
export function withBelongings(scene: Scene, ids: readonly string[]): DrawingDocumentRecord[] {
  const out = new Map<string, DrawingDocumentRecord>();
  const add = (r: DrawingDocumentRecord | undefined) => {
    if (!r || !isElement(r) || out.has(r.id)) return;
    out.set(r.id, r);
    scene.at(r.id).forEach(add);
  };
  for (const id of ids) add(Object.hasOwn(scene.document, id) ? scene.document[id] : undefined);
  return [...out.values()].sort((a, b) => depth(scene, a) - depth(scene, b));
}

function depth(scene: Scene, r: DrawingDocumentRecord): number {
  const home = homeOf(r);
  const at = home === undefined ? undefined : scene.document[home];
  return at ? 1 + depth(scene, at) : 0;
}

export interface CopyTo {
  /** Sheet that takes the place of the sheets they stood on. */
  readonly sheet: string;
  /** What belonged to a view that is not copied goes to this one; without it such elements are left out. */
  readonly view?: string | undefined;
  /** How far from where they stood, paper mm. */
  readonly by: Vec2;
  freshId(base: string): string;
}

/**
 * Copies of records that stood in the drawing, or still do. What they point at among themselves points at the copies;
 * whatever hung on something that is not copied stands free. Sections and details get a letter of their own.
 */
export function copiesOf(scene: Scene, records: readonly DrawingDocumentRecord[], to: CopyTo): DrawingDocumentRecord[] {
  const names = new Map<string, string>();
  for (const r of records) names.set(r.id, to.freshId(r.id.split('~')[0]!));
  const letters = lettersOf(scene);
  const out: DrawingDocumentRecord[] = [];
  for (const r of records) {
    const home = homeOf(r);
    const alone = home !== undefined && !names.has(home);
    // What does not go along is another sheet, a view that takes what belonged to one, or nothing.
    const { record } = followed(r, {
      record: (id, reference) => {
        if (names.has(id)) return names.get(id);
        if (reference.type === 'sheet') return to.sheet;
        if (reference.type === 'spread') return id;
        // A copy of a detail is one more detail of the same view.
        if (r.type === 'view' && r.detail?.of === id) return id;
        return reference.whenGone === 'dropWith' && alone ? to.view : undefined;
      },
    });
    if (!record) {
      names.delete(r.id);
      continue;
    }
    let copy = { ...record, id: names.get(r.id)! } as DrawingDocumentRecord;
    if (copy.type === 'view') copy = relettered(shiftedView(copy, ...to.by), letters);
    out.push(copy);
  }
  return out;
}

function relettered(view: ViewRecord, letters: Set<string>): ViewRecord {
  const { cut, detail } = view;
  const known = detail?.letter || cut?.letter;
  if (!known) return view;
  const letter = nextLetter(letters);
  letters.add(letter);
  if (detail) return { ...view, name: view.name.replace(new RegExp(`\\b${known}$`), letter), detail: { ...detail, letter } };
  const [before, now] = [known, letter].map((l) => `${l}–${l}`);
  return { ...view, name: view.name.replace(before!, now!), cut: { ...cut!, letter } };
}

/** Does a view look at another one from a side, so that an arrow on that one can say so? */
const isSideways = (view: ViewRecord, parent: ViewRecord): boolean => Math.abs(dot(view.toward, parent.toward)) < 0.99;

/** Puts elements, with all that belongs to them, on another sheet; what they were in line with stays behind. */
export function movedToSheet(scene: Scene, ids: readonly string[], sheet: string): Step[] {
  const going = new Set(ids.filter((id) => scene.one('view', id) ?? scene.one('list', id)));
  const steps: Step[] = [];
  const letters = lettersOf(scene);
  for (const r of Object.values(scene.document)) {
    if (r.type !== 'view' && r.type !== 'list') continue;
    const moves = going.has(r.id) && r.sheet !== sheet;
    if (r.type === 'list') {
      if (moves) steps.push({ op: 'put', record: { ...r, sheet } });
      continue;
    }
    const parent = scene.one('view', r.parent);
    const parted = parent !== undefined && r.align !== null && moves !== (going.has(parent.id) && parent.sheet !== sheet);
    if (!moves && !parted) continue;
    // A neighbour that leaves its parent is named by an arrow there (ISO 128-3); a section has its cutting line.
    const arrow = parted && !r.cut && !r.arrow && isSideways(r, parent) ? nextLetter(letters) : undefined;
    if (arrow) letters.add(arrow);
    steps.push({ op: 'put', record: { ...r, ...(moves ? { sheet } : {}), ...(parted ? { align: null } : {}), ...(arrow ? { arrow, label: true } : {}) } });
  }
  return steps;
}
