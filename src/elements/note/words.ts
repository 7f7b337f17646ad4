import { numberText } from '../../core/ledger/items.ts';
import { decimalText, valueParts, plainText, wholeStyle } from '../../core/dimension/value.ts';
import type { PartFeatures } from '../../core/features/part-features.ts';
import { holeAt } from '../../core/features/holes.ts';
import { scaleText } from '../../core/sheet/paper.ts';
import { fieldValue, fillIn } from '../field-values.ts';
import type { Thread } from '../../core/thread/threads-of.ts';
import type { RecordOf } from '../../core/document/records.ts';
import type { Scene } from '../scene.ts';
import { pathOfTarget, type Target } from '../target.ts';

export type NoteRecord = RecordOf<'note'>;

/** Words in braces that stand for values of what a note points at. */
const TARGET_FIELDS = {
  item: 'item number',
  description: 'description of the part',
  material: 'material',
  mass: 'mass of one piece',
  quantity: 'how many there are',
  part: 'part number',
  hole: 'the hole: diameter, depth, widened mouth, thread',
  thread: 'the thread',
} as const;
type Field = keyof typeof TARGET_FIELDS;
const isOfTarget = (name: string): name is Field => Object.hasOwn(TARGET_FIELDS, name);
/** Those that speak of nothing without it. */
const OF_TARGET = new Set(['item', 'description', 'part', 'hole', 'thread']);

/** Words in braces that stand for values, and what they say. */
export const FIELDS: Readonly<Record<string, string>> = {
  ...TARGET_FIELDS,
  title: 'title of the drawing',
  number: 'drawing number',
  revision: 'revision',
  date: 'date of issue',
  sheet: 'number of the sheet',
  sheets: 'how many sheets there are',
  scale: 'scale of the view',
  owner: 'legal owner',
  sheetName: 'document type of the sheet',
  size: 'size of the sheet',
  unit: 'unit of lengths',
  file: 'file of the model',
};

/** The text of a note with its values put in. A field without a value prints nothing; words in braces that are no field stay. */
export function wordsOf(note: NoteRecord, scene: Scene): string {
  return fillIn(note.text, (name, pattern) => valueOf(name, pattern, note, scene) ?? (isField(name) ? '' : undefined));
}

const isField = (name: string): boolean => Object.hasOwn(FIELDS, name);

/** Fields of a note that have no value here, as they are typed, and words in braces that are no field. */
export function emptyFields(note: NoteRecord, scene: Scene): { readonly without: readonly string[]; readonly unknown: readonly string[] } {
  const without = new Set<string>();
  const unknown = new Set<string>();
  fillIn(note.text, (name, pattern) => {
    const value = valueOf(name, pattern, note, scene);
    if (value === undefined && !isField(name)) unknown.add(`{${name}}`);
    else if (!value?.trim()) without.add(`{${name}}`);
    return '';
  });
  return { without: [...without], unknown: [...unknown] };
}

/** What a hole callout or a thread callout says of a target; undefined where there is no hole or thread. */
export function calloutOf(field: 'hole' | 'thread', t: Target, scene: Scene): string | undefined {
  return ofTarget(field, t, scene);
}

/** What is pointed at speaks first; then the view, the sheet and the drawing. */
function valueOf(name: string, pattern: string | undefined, note: NoteRecord, scene: Scene): string | undefined {
  const view = name === 'scale' ? scene.one('view', note.view) : undefined;
  if (view) return scaleText(view.scale);
  const sheet = scene.sheetOf(note);
  const said = note.leaders?.length && isOfTarget(name) ? ofTarget(name, note.leaders[0]!.to, scene) : undefined;
  return said ?? (OF_TARGET.has(name) ? undefined : fieldValue(name, pattern, sheet && scene.shownSheet(sheet), scene)?.text);
}

function ofTarget(field: Field, t: Target | undefined, scene: Scene): string | undefined {
  const path = t && pathOfTarget(t);
  const component = path === undefined ? undefined : scene.component(path);
  if (!t || !component) return undefined;
  if (field === 'hole') return holeText(t, component.index, scene);
  if (field === 'thread') return threadNear(t, component.index, scene)?.designation;
  const item = scene.itemOf(component.index);
  if (!item) return undefined;
  switch (field) {
    case 'item':
      return numberText(item);
    case 'quantity':
      return String(item.components.length);
    case 'mass':
      return item.massKg === undefined
        ? undefined
        : `${decimalText(item.massKg, { decimals: 2, zeros: true, sign: wholeStyle(scene.drawing.standard, scene.drawing.values).sign })} kg`;
    case 'description':
      return item.values.description.text;
    case 'material':
      return item.values.material.text;
    case 'part':
      return item.values.partNumber.text;
    default:
      return undefined;
  }
}

/** What is measured on the shape that a target is on: the part, or its flat pattern. */
const featuresAt = (t: Target, component: number, scene: Scene): PartFeatures | undefined =>
  scene.featuresOfShape(component, (t.face ?? t.edge)?.geometry ?? '');

/** Rounds that a target is on: the face itself, or those beside the edge. */
function roundsAt(t: Target, component: number, scene: Scene): number[] {
  const f = featuresAt(t, component, scene);
  if (!f) return [];
  const faces = t.face ? [t.face.face] : t.edge ? [f.edgeFaces[t.edge.edge * 2]!, f.edgeFaces[t.edge.edge * 2 + 1]!] : [];
  return [...new Set(faces.flatMap((face) => (face >= 0 && f.faceRound[face]! >= 0 ? [f.faceRound[face]!] : [])))];
}

function threadNear(t: Target, component: number, scene: Scene): Thread | undefined {
  const rounds = roundsAt(t, component, scene);
  return scene.threads.find((x) => x.component === component && rounds.includes(x.round));
}

/** `4× Ø9 ⌴ Ø15 ↧9`, `2× M8 ↧20`, `Ø9 ⌵ Ø16 × 90°` (signs of ISO 129-1 and ASME Y14.5). @param counted with how many there are */
export function holeText(t: Target, component: number, scene: Scene, counted = true): string | undefined {
  const f = featuresAt(t, component, scene);
  if (!f) return undefined;
  const holes = roundsAt(t, component, scene).flatMap((r) => holeAt(f, r) ?? []);
  const [hole] = holes;
  if (!hole) return undefined;
  const style = wholeStyle(scene.drawing.standard, scene.drawing.values);
  const length = (mm: number) => plainText(valueParts(mm, 'length', style));
  const thread = scene.threads.find((x) => x.component === component && x.internal && x.round === hole.bore);
  const { counterbore: c, countersink: s } = hole;
  const words = [
    thread ? thread.designation : `Ø${length(hole.diameterMm)}`,
    ...(hole.depthMm === undefined ? [] : [`↧${length(hole.depthMm)}`]),
    ...(c ? [`⌴ Ø${length(c.diameterMm)} ↧${length(c.depthMm)}`] : []),
    ...(s ? [`⌵ Ø${length(s.diameterMm)} × ${Math.round((s.angle * 180) / Math.PI)}°`] : []),
  ];
  const threaded = (round: number) => scene.threads.find((x) => x.component === component && x.internal && x.round === round)?.designation;
  const count = counted ? equalHoles(f, hole.bore).filter((r) => threaded(r) === thread?.designation).length : 1;
  return `${count > 1 ? `${count}× ` : ''}${words.join(' ')}`;
}

/** The rounds of a part that are holes like one, the same way round; that one is among them. */
export function equalHoles(f: PartFeatures, bore: number): number[] {
  const like = f.rounds[bore]!;
  return f.rounds.flatMap((r, i) =>
    r.inward &&
    r.kind === like.kind &&
    Math.abs(r.radius - like.radius) < 1e-3 &&
    Math.abs(r.to - r.from - (like.to - like.from)) < 1e-3 &&
    Math.abs(Math.abs(r.axis[0] * like.axis[0] + r.axis[1] * like.axis[1] + r.axis[2] * like.axis[2]) - 1) < 1e-6
      ? [i]
      : [],
  );
}
