import { expect, test } from 'vitest';
import { spelling } from '../core/proof/rules/spelling.ts';
import type { DrawingDocumentRecord } from '../core/document/records.ts';
import { draftAll, smallMachine } from '../core/testing/drafting.ts';
import { applySteps } from '../core/document/steps.ts';
import type { DrawingDocument } from '../core/document/records.ts';
import { Scene } from '../elements/scene.ts';
import { englishSpeller } from './speller.ts';

const speller = englishSpeller();
const drawn = await draftAll(smallMachine(), { bare: true, only: 'arrangement' });

test('the shipped dictionary knows the words of the trade, and not their misspellings', () => {
  for (const w of ['washer', 'bolt', 'bearing', 'bracket', 'sheave', 'grease', 'torque', 'ratchet', 'welded']) expect([w, speller(w)]).toEqual([w, true]);
  for (const w of ['bearring', 'waser', 'greese', 'assebmly']) expect([w, speller(w)]).toEqual([w, false]);
});

test('words of a note are looked up; designations, numbers and file names are none; one’s own are kept', () => {
  const note = (text: string): DrawingDocumentRecord => ({ type: 'note', id: 'note:1', sheet: drawn.scene.sheets[0]!.id, view: null, at: [50, 50], text });
  const sceneOf = (...records: readonly DrawingDocumentRecord[]) =>
    new Scene({ ...drawn, document: { ...drawn.document, ...Object.fromEntries(records.map((r) => [r.id, r])) }, speller });
  const found = (text: string) => spelling.whole!(sceneOf(note(text))).filter((f) => f.about[0] === 'note:1');
  expect(found('Tighten M8 to 25 Nm, see DIN EN ISO 4014 and base_plate.step, item SW-40-01')).toEqual([]);
  const [f] = found('Tigthen the boltz');
  expect(f!.text).toBe('Note: “Tigthen”, “boltz” are in no dictionary.');
  const r = applySteps(
    drawn.document,
    spelling.fix!(f!, sceneOf(note('x')), (t) => t),
  );
  if (!r.ok) throw new Error(r.reason);
  const after = new Scene({ ...drawn, document: { ...(r.document as DrawingDocument), 'note:1': note('Tigthen the boltz') }, speller });
  expect(spelling.whole!(after).filter((x) => x.about[0] === 'note:1')).toEqual([]);
});

test('without a dictionary nothing is said', () => {
  expect(spelling.whole!(drawn.scene)).toEqual([]);
});
