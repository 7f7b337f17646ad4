import { format as dateText, isValid, parseISO } from 'date-fns';
import { wholeStyle } from '../core/dimension/value.ts';
import type { SheetRecord } from '../core/document/records.ts';
import { massIn, massText, totalMass, type Item, type PropertyKey } from '../core/ledger/items.ts';
import { scaleText } from '../core/sheet/paper.ts';
import type { Scene } from './scene.ts';
import { mainScale, sameScale } from './view/main-scale.ts';

/** Where the value of a field comes from. */
export type FieldSource = 'job' | 'part' | 'sheet' | 'counted' | 'model' | 'own';

export interface FieldValue {
  readonly text: string;
  readonly from: FieldSource;
  /** What it is written in: a field of the drawing record, or a property of the sheet's part. */
  readonly property?: PropertyKey;
}

/** Texts of the drawing record that are fields, as people call them. */
export const JOB_FIELDS = {
  title: 'Title',
  number: 'Drawing number',
  revision: 'Revision',
  date: 'Date of issue',
  drawnBy: 'Drawn by',
  checkedBy: 'Checked by',
  approvedBy: 'Approved by',
  owner: 'Legal owner',
} as const;
export type JobField = keyof typeof JOB_FIELDS;
export const isJobField = (name: string): name is JobField => Object.hasOwn(JOB_FIELDS, name);

/** Every field that has a name of its own; any other name is a field of one's own, or a property that the model's file states. */
export const FIELD_TITLES: Readonly<Record<string, string>> = {
  ...JOB_FIELDS,
  quantity: 'To make',
  sheetName: 'Document type',
  sheet: 'Sheet',
  sheets: 'Sheets',
  scale: 'Scale',
  size: 'Size',
  mass: 'Mass',
  material: 'Material',
  projection: 'Projection',
  file: 'File of the model',
  unit: 'Unit',
};

/** What is said of a field that nobody types. */
export const COMPUTED_FIELDS: Readonly<Record<string, string>> = {
  scale:
    'Scale: that of most views on this sheet; others say theirs themselves. What is typed (“none”, “1:1 except where noted”) takes its place; emptied, it is counted again.',
  size: 'Size: from the sheet.',
  sheet: 'Sheet n of m: counted.',
  sheets: 'Sheet n of m: counted.',
  mass: 'Mass: the sum over the ledger; “incomplete” while some parts have none.',
  projection: 'Projection symbol: from the standard of the drawing.',
  file: 'File: the one the model was read from.',
  unit: 'Unit: in which lengths on this drawing are written.',
};

/** Properties of a part that its own sheet's title block shows. */
const OF_PART: Readonly<Record<string, PropertyKey>> = { title: 'description', number: 'drawingNumber', material: 'material' };

/** A field in a text: `{name}`, or `{name:pattern}` for a date, a number or the words for a scale that differs. */
const FIELD = /\{([^{}:]{1,80})(?::([^{}]{1,60}))?\}/g;

/** The part whose sheet it is. */
export const partOfSheet = (sheet: SheetRecord | undefined, scene: Scene): Item | undefined =>
  sheet?.part === undefined ? undefined : scene.items.find((i) => i.part === sheet.part);

/** Names of the fields in a text. */
export const fieldsIn = (text: string): string[] => [...text.matchAll(FIELD)].map((m) => m[1]!);

/** A text with its fields put in. @param missing what stands for one that there is nothing for; absent: it stays as it was typed */
export function fillIn(text: string, valueOf: (name: string, pattern: string | undefined) => string | undefined, missing?: string): string {
  return text.replace(FIELD, (typed, name: string, pattern: string | undefined) => valueOf(name, pattern) ?? missing ?? typed);
}

/**
 * What a field says on a sheet.
 * @param pattern of a date (Unicode TR 35: `dd.MM.yyyy`), of a number (`0.00`), or the words for a scale where views differ
 * @returns undefined where there is no such field
 */
export function fieldValue(name: string, pattern: string | undefined, sheet: SheetRecord | undefined, scene: Scene): FieldValue | undefined {
  const { drawing } = scene;
  const part = partOfSheet(sheet, scene);
  const property = part && OF_PART[name];
  if (property) {
    const { values } = part;
    const text = name === 'number' ? values.drawingNumber.text || values.partNumber.text : values[property].text;
    return { text, from: 'part', property };
  }
  if (isJobField(name)) return { text: name === 'date' ? dated(drawing.date, pattern) : drawing[name], from: 'job' };
  switch (name) {
    case 'quantity':
      return part ? { text: counted(part.quantity * drawing.quantity, pattern), from: 'counted' } : { text: counted(drawing.quantity, pattern), from: 'job' };
    case 'sheets':
      return { text: counted(scene.sheets.length, pattern), from: 'counted' };
    case 'mass':
      return { text: massOf(part, pattern, scene), from: 'counted' };
    case 'material':
      return { text: '', from: 'part' };
    case 'file':
      return { text: scene.one('model', 'model')?.name ?? scene.assembly.name, from: 'model' };
    case 'unit':
      return { text: wholeStyle(drawing.standard, drawing.values).unit === 'inch' ? 'in' : 'mm', from: 'job' };
    case 'projection':
      return { text: drawing.standard === 'iso' ? 'First angle' : 'Third angle', from: 'job' };
  }
  const own = drawing.fields?.[name];
  if (own !== undefined) return { text: own, from: 'own' };
  const stated = statedBy(scene, name);
  if (stated !== undefined) return { text: stated, from: 'model' };
  if (!sheet) return undefined;
  switch (name) {
    case 'sheet':
      return { text: counted(scene.sheets.indexOf(sheet) + 1, pattern), from: 'counted' };
    case 'sheetName':
      return { text: sheet.name, from: 'sheet' };
    case 'size':
      return { text: sheet.size.replace('x', '×'), from: 'sheet' };
    case 'scale':
      return sheet.scaleSaid === undefined ? { text: scaleOf(sheet, pattern, scene), from: 'counted' } : { text: sheet.scaleSaid, from: 'sheet' };
    default:
      return undefined;
  }
}

/** A property that the file of the model states about the whole, whatever its case. */
function statedBy({ assembly }: Scene, name: string): string | undefined {
  const wanted = name.toLowerCase();
  return Object.entries(assembly.properties).find(([key]) => key.toLowerCase() === wanted)?.[1];
}

function scaleOf(sheet: SheetRecord, differ: string | undefined, scene: Scene): string {
  const main = mainScale(scene, sheet.id);
  if (!main) return '–';
  const several = differ !== undefined && scene.viewsOn(sheet.id).some((v) => !v.off && !v.detail && !sameScale(v.scale, main));
  return several ? differ : scaleText(main);
}

function massOf(part: Item | undefined, pattern: string | undefined, { items, ledger }: Scene): string {
  const whole = part ? { kg: part.massKg ?? 0, complete: true } : totalMass(items);
  if (whole.kg <= 0) return '–';
  // What is not known is not weighed: the sum says so.
  const after = whole.complete ? '' : ', incomplete';
  if (!pattern) return `${massText(whole.kg, ledger.massUnit)}${after}`;
  const { value, name } = massIn(whole.kg, ledger.massUnit);
  return `${counted(value, pattern)} ${name}${after}`;
}

/** A number by a pattern of zeros: `000` fills up to three figures, `0.00` writes two decimals. */
function counted(value: number, pattern: string | undefined): string {
  const [, whole, decimals] = /^(0+)(?:[.,](0+))?$/.exec(pattern ?? '') ?? [];
  if (!whole) return String(value);
  const [a, b] = value.toFixed(decimals?.length ?? 0).split('.');
  return `${a!.padStart(whole.length, '0')}${b === undefined ? '' : `${pattern!.includes(',') ? ',' : '.'}${b}`}`;
}

/** A date by a pattern; what is no date, or a pattern that is none, stays as it was typed. */
function dated(date: string, pattern: string | undefined): string {
  if (!pattern || !/^\d{4}-\d{2}-\d{2}/.test(date)) return date;
  const day = parseISO(date);
  if (!isValid(day)) return date;
  try {
    return dateText(day, pattern);
  } catch (e) {
    if (e instanceof RangeError) return date;
    throw e;
  }
}
