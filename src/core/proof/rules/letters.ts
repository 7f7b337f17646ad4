import { lettersOf, nextLetter } from '../../../elements/view/letters.ts';
import { labelOf } from '../../../elements/view/draw.ts';
import type { ViewRecord } from '../../document/records.ts';
import { without } from '../../base/without.ts';
import type { Finding } from '../finding.ts';
import type { Rule } from '../rule.ts';

const MISREAD = /[IOQ]/;
const letterOf = (v: ViewRecord): string => v.detail?.letter || v.cut?.letter || v.arrow || '';

/** Sections, details and views by arrows are called by letters of their own (ISO 128-3; ASME Y14.3). */
export const letters: Rule = {
  codes: ['LETTER_TWICE', 'LETTER_MISREAD', 'NOT_LABELLED', 'NO_CUTTING_LINE', 'NO_DETAIL_MARK'],

  whole(scene) {
    const out: Finding[] = [];
    const first = new Map<string, ViewRecord>();
    for (const v of scene.all('view')) {
      if (v.off) continue;
      const letter = letterOf(v);
      const found = (code: Finding['code'], severity: Finding['severity'], text: string, fix?: string) =>
        out.push({ code, severity, sheet: v.sheet, about: [v.id], text, ...(fix ? { fix } : {}) });
      const section = v.cut && !v.detail && !v.cut.shape;
      if ((section || v.detail) && letter && !v.label) found('NOT_LABELLED', 'should', `The label of ${v.name} is off.`, 'Show its label');
      else if ((section || v.detail) && !labelOf(v, true).startsWith(letter || '?'))
        found('NOT_LABELLED', 'must', `${v.name} is ${v.detail ? 'a detail' : 'a section'} without a letter.`, 'Give it the next letter');
      if (section && v.cut!.shownIn === null) found('NO_CUTTING_LINE', 'should', `No view shows where section ${letter} is cut.`, 'Show its line');
      if (section && letter && v.cut!.noLetter && v.cut!.shownIn)
        found('NO_CUTTING_LINE', 'should', `The line of section ${letter} has no letters.`, 'Write its letters');
      if (v.detail && !v.detail.of) found('NO_DETAIL_MARK', 'should', `No view shows what detail ${letter} is of.`);
      if (!letter || (v.cut && v.detail && v.cut.letter === v.detail.letter)) continue;
      if (MISREAD.test(letter)) found('LETTER_MISREAD', 'look', `The letter ${letter} is easily misread.`, 'Take the next letter');
      // A detail of a section has a letter of its own.
      const other = first.get(letter);
      if (other) found('LETTER_TWICE', 'must', `${other.name} and ${v.name} have the same letter ${letter}.`, 'Take the next letter');
      else first.set(letter, v);
    }
    return out;
  },

  fix(f, scene) {
    const view = scene.one('view', f.about[0]);
    if (!view) return [];
    if (f.code === 'NO_CUTTING_LINE' && view.cut) {
      if (view.cut.noLetter) return [{ op: 'put', record: { ...view, cut: without(view.cut, 'noLetter') } }];
      const shownIn = scene.viewsOn(view.sheet).find((v) => seesEdgeOn(v, view.cut!.normal)) ?? scene.all('view').find((v) => seesEdgeOn(v, view.cut!.normal));
      return shownIn ? [{ op: 'put', record: { ...view, cut: { ...view.cut, shownIn: shownIn.id } } }] : [];
    }
    if (f.code === 'NOT_LABELLED' && letterOf(view) && !view.label) return [{ op: 'put', record: { ...view, label: true } }];
    const letter = nextLetter(lettersOf(scene));
    if (view.detail) return [{ op: 'put', record: { ...view, detail: { ...view.detail, letter } } }];
    if (view.cut) return [{ op: 'put', record: { ...view, cut: { ...view.cut, letter }, name: `Section ${letter}–${letter}` } }];
    return view.arrow ? [{ op: 'put', record: { ...view, arrow: letter } }] : [];
  },
};

const seesEdgeOn = (v: ViewRecord, n: readonly number[]): boolean =>
  !v.off && !v.cut && !v.spread && !v.detail && Math.abs(v.toward[0] * n[0]! + v.toward[1] * n[1]! + v.toward[2] * n[2]!) < 1e-6;
