import { sensibleLength } from '../../core/dimension/awkward.ts';
import { plainText, valueParts, type WholeStyle } from '../../core/dimension/value.ts';
import type { Finding } from '../../core/proof/finding.ts';
import type { Scene } from '../scene.ts';
import { dimensionInstead } from '../reattach.ts';
import { isLost, pathOfTarget, type Target } from '../target.ts';
import { styleOf, valuesOf } from './draw.ts';
import { hasChanged, type DimensionRecord, type Measured } from './measure.ts';
import { againstStated } from './stated.ts';

/** Has a value changed since someone last saw it? @returns what it was and is, mm or rad, for each that has */
export function changedValues(
  record: DimensionRecord,
  scene: Scene,
): readonly { readonly was: number; readonly is: number; readonly kind: Measured['kind'] }[] {
  const { seen } = record;
  if (!seen) return [];
  return valuesOf(record, scene).flatMap(({ measured: m }, i) => {
    const was = seen[i];
    return was !== undefined && hasChanged(was, m.value) ? [{ was, is: m.value, kind: m.kind }] : [];
  });
}

/** Lengths of a dimension that nobody can set in the field, with the nearest ones that can be; mm. */
export function awkwardValues(record: DimensionRecord, scene: Scene): readonly { readonly value: number; readonly sensible: number }[] {
  if (record.text?.typed !== undefined || record.text?.form === 'reference') return [];
  // What is made to its own sheet is not set in the field.
  if (scene.one('sheet', scene.one('view', record.view)?.sheet)?.part !== undefined) return [];
  const style = styleOf(record, scene);
  return valuesOf(record, scene).flatMap(({ measured: m }) => {
    const sensible = m.kind === 'length' ? sensibleLength(m.value, style) : undefined;
    return sensible === undefined || (record.accepted !== undefined && Math.abs(record.accepted - m.value) < 1e-6) ? [] : [{ value: m.value, sensible }];
  });
}

/**
 * What is said of a length that nobody can set: its value, the nearest that can be, and how far that is off, in the unit in
 * which it is written; on inch rules that is sixteenths.
 */
export function awkwardText(record: DimensionRecord, scene: Scene): { readonly value: string; readonly instead: string; readonly off: string } | undefined {
  const [awkward] = awkwardValues(record, scene);
  if (!awkward) return undefined;
  const style = styleOf(record, scene);
  const written = (mm: number, as: WholeStyle) => plainText(valueParts(mm, 'length', as));
  const inch = style.unit === 'inch' || (style.unit === 'both' && style.standard === 'asme');
  const by = awkward.sensible - awkward.value;
  // A rule in inches is read in fractions, whatever the drawing writes.
  const rule: WholeStyle = { ...style, unit: inch ? 'inch' : 'mm', fraction: inch ? 16 : 1 };
  const fine: WholeStyle = {
    ...style,
    unit: rule.unit,
    decimals: inch ? 3 : Math.max(2, style.decimals),
    zeros: false,
    fraction: style.fraction > 16 ? style.fraction : 1,
  };
  const unit = inch ? ' in' : style.standard === 'asme' ? ' mm' : '';
  return {
    value: written(awkward.value, style),
    instead: `${written(awkward.sensible, rule)}${unit}`,
    off: `${written(Math.abs(by), fine)}${unit} ${by > 0 ? 'more' : 'less'}`,
  };
}

export function dimensionFindings(records: readonly DimensionRecord[], sheet: string, scene: Scene): Finding[] {
  const out: Finding[] = [];
  for (const r of records) {
    const found = (code: Finding['code'], severity: Finding['severity'], text: string, fix?: string) =>
      out.push({ code, severity, sheet, about: [r.id], text, ...(fix ? { fix } : {}) });
    const style = styleOf(r, scene);
    const written = (mm: number, kind: Measured['kind'] = 'length') => plainText(valueParts(mm, kind, style));
    if (r.of.some(isLost)) {
      found(
        'LOST_TARGET',
        'must',
        `A dimension lost what it measured: ${r.of
          .filter(isLost)
          .map((t) => nameOf(t, scene))
          .join(' and ')} has another shape now.`,
        dimensionInstead(r, scene).length ? 'Hold on to what is there now' : undefined,
      );
      continue;
    }
    out.push(...againstStated(r, sheet, scene));
    const [changed] = changedValues(r, scene);
    if (changed)
      found(
        'CHANGED_VALUE',
        'look',
        `A dimension was ${written(changed.was, changed.kind)} and is ${written(changed.is, changed.kind)} now. Look at it, and say that it is seen.`,
        'It is seen',
      );
    const awkward = awkwardText(r, scene);
    if (awkward)
      found(
        'AWKWARD_VALUE',
        'look',
        `${awkward.value} cannot be set in the field: ${awkward.instead} would be ${awkward.off}. It comes from ${sourceOf(r, scene)}.`,
      );
    if (r.text?.typed !== undefined) {
      const [value] = valuesOf({ ...r, text: {} }, scene);
      if (value) found('TYPED_VALUE', 'look', `“${r.text.typed}” is written where the model says ${plainText(value.parts)}.`, 'Write the true value');
    }
  }
  return out;
}

/** Between which components a dimension goes. */
export function sourceOf(r: DimensionRecord, scene: Scene): string {
  const names = [...new Set(r.of.map((t) => nameOf(t, scene)))];
  return names.length > 1 ? `${names[0]} to ${names.at(-1)}` : (names[0] ?? '');
}

/** What a target is on, for people. */
export function nameOf(t: Target, scene: Scene): string {
  const path = pathOfTarget(t);
  if (path === undefined) return t.side ? 'the whole' : 'a place';
  const component = scene.component(path);
  return `“${(component && scene.itemOf(component.index)?.values.description.text) || component?.name || path}”`;
}
