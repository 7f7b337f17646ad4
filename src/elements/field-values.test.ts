import { describe, expect, test } from 'vitest';
import type { DrawingDocumentRecord, SheetRecord } from '../core/document/records.ts';
import { applySteps } from '../core/document/steps.ts';
import type { Scene } from './scene.ts';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { isTyped, typedValue, writeField } from './field-edit.ts';
import { fieldsIn, fieldValue, fillIn } from './field-values.ts';
import { sceneWith } from './testing/scene-with.ts';

const machine = smallMachine();
const stated = { ...machine.assembly, properties: { ...machine.assembly.properties, Customer: 'Harbour office' } };
const drawn = await draftAll({ ...machine, assembly: stated }, { bare: true });
const drawing = drawn.scene.drawing;
const plate = drawn.items.find((i) => i.values.description.text === 'Plate')!;
const sceneOf = (more: Partial<typeof drawing> = {}, ...records: DrawingDocumentRecord[]) =>
  sceneWith(drawn, { ...drawing, date: '2026-03-09', fields: { project: 'P-7' }, quantity: 12, ...more }, ...records);
const sheet = drawn.scene.sheets[0]!;
const ofPart: SheetRecord = { ...sheet, part: plate.part };

describe('a field', () => {
  const say = (text: string, on: SheetRecord = sheet, scene = sceneOf({}, ...(on === ofPart ? [ofPart] : []))) =>
    fillIn(text, (name, pattern) => fieldValue(name, pattern, on, scene)?.text);

  test('stands in braces among other words; one that there is nothing for stays as it was typed, or leaves nothing', () => {
    expect(fieldsIn('Sheet {sheet} of {sheets}: {date:dd.MM.yyyy}')).toEqual(['sheet', 'sheets', 'date']);
    expect(say('Sheet {sheet} of {sheets}, {nobody}')).toBe('Sheet 1 of 2, {nobody}');
    expect(fillIn('a {b} c', () => undefined, '')).toBe('a  c');
  });
  // Unicode TR 35, date field symbols: yyyy, MM, dd, MMM.
  test('of a date is written by a pattern; what is no date stays', () => {
    expect(say('{date}')).toBe('2026-03-09');
    expect(say('{date:dd.MM.yyyy} {date:d MMM yyyy} {date:MM/dd/yy}')).toBe('09.03.2026 9 Mar 2026 03/09/26');
    expect(say('{date:dd.MM.yyyy}', sheet, sceneOf({ date: 'spring' }))).toBe('spring');
    expect(say('{date:nonsense}')).toBe('2026-03-09');
  });
  test('of a number is written by zeros', () => {
    expect(say('{quantity:000} {sheet:00} {sheets}')).toBe('012 01 2');
    expect(say('{mass:0.00}')).toMatch(/^\d+\.\d\d k?g, incomplete$/);
    expect(say('{mass:0,0}')).toMatch(/^\d+,\d k?g, incomplete$/);
  });
  test('of the scale says another word where views differ', () => {
    const [one, ...others] = drawn.scene.viewsOn(sheet.id).filter((v) => !v.detail);
    const same = sceneOf({}, ...others.map((v) => ({ ...v, scale: one!.scale })));
    const text = say('{scale:as shown}', sheet, same);
    expect(text).toMatch(/^\d+:\d+$/);
    const differ = sceneOf({}, ...others.map((v, i) => ({ ...v, scale: i ? one!.scale : one!.scale / 2 })));
    expect(say('{scale:as shown}', sheet, differ)).toBe('as shown');
    expect(say('{scale}', sheet, differ)).toBe(text);
  });
  test('of one’s own, or stated by the model’s file', () => {
    expect(say('{project}, {customer}')).toBe('P-7, Harbour office');
    expect(fieldValue('project', undefined, sheet, sceneOf())!.from).toBe('own');
    expect(fieldValue('customer', undefined, sheet, sceneOf())!.from).toBe('model');
  });
  test('of a part’s own sheet speaks of the part', () => {
    expect(say('{title} {number} {material} {quantity}', ofPart)).toBe(`Plate P-1 S355 ${plate.quantity * 12}`);
    expect(fieldValue('title', undefined, ofPart, sceneOf({}, ofPart))).toMatchObject({ from: 'part', property: 'description' });
  });
});

describe('is written where it comes from', () => {
  const written = (name: string, text: string, on: SheetRecord = sheet) => {
    const scene = sceneOf({}, ...(on === ofPart ? [ofPart] : []));
    const steps = writeField(name, text, on, scene, '2026-01-01T00:00:00Z');
    const r = applySteps(scene.document, steps);
    if (!r.ok) throw new Error(r.reason);
    const now = scene.with(r.document);
    return { steps, value: typedValue(name, now.one('sheet', on.id)!, now) };
  };
  test.each(['title', 'number', 'owner', 'date', 'revision', 'sheetName', 'project', 'a new one'])('%s', (name) => {
    expect(isTyped(name, sheet, sceneOf())).toBe(true);
    expect(written(name, 'Other').value).toBe('Other');
  });
  test('a part’s to its property, a number of pieces only as a number', () => {
    const { steps, value } = written('title', 'Base', ofPart);
    expect([value, steps[0]]).toMatchObject(['Base', { record: { type: 'property', part: plate.part } }]);
    expect(written('quantity', '40').value).toBe('40');
    expect(written('quantity', 'many').steps).toEqual([]);
  });
  test.each(['sheet', 'sheets', 'size', 'mass', 'projection', 'file', 'customer', 'material'])('%s is not typed', (name) => {
    expect(isTyped(name, sheet, sceneOf())).toBe(false);
    expect(written(name, 'x').steps).toEqual([]);
  });
});

describe('the scale cell', () => {
  const { scene } = drawn;
  const shown = (s: Scene) => fieldValue('scale', undefined, s.one('sheet', sheet.id), s);
  const after = (text: string, from = scene): Scene => {
    const r = applySteps(from.document, writeField('scale', text, from.one('sheet', sheet.id)!, from, '2026-01-01T00:00:00Z'));
    if (!r.ok) throw new Error(r.reason);
    return from.with(r.document);
  };
  test('says what is typed, and the computed one again when it is emptied or typed as it is', () => {
    const usual = shown(scene)!.text;
    expect(shown(after('none'))).toEqual({ text: 'none', from: 'sheet' });
    expect(shown(after('1:1 except where noted'))!.text).toBe('1:1 except where noted');
    expect(shown(after('', after('none')))).toEqual({ text: usual, from: 'counted' });
    expect(after(usual, after('none')).one('sheet', sheet.id)!.scaleSaid).toBeUndefined();
    // Views whose scale is another than that of most still say theirs.
    expect(isTyped('scale', sheet, scene)).toBe(true);
  });
});
