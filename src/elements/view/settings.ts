import type { Vec2 } from '../../core/base/vector.ts';
import { without } from '../../core/base/without.ts';
import type { ViewRecord } from '../../core/document/records.ts';
import type { Step } from '../../core/document/steps.ts';
import type { ViewFrame } from '../../core/outline/directions.ts';
import type { ViewResult } from '../../core/views/compute-view.ts';
import type { Scene } from '../scene.ts';
import { boxFromParts } from './extent.ts';
import { scaledTogether } from './scale.ts';

/** A view seen from elsewhere, in its place and at its scale; a cut, an outline and gaps meant the old direction and go. */
export function redirected(scene: Scene, view: ViewRecord, { right, up, toward }: ViewFrame): ViewRecord {
  const [x0, y0, x1, y1] = boxFromParts(scene, { right, up, toward }, view);
  const middle = scene.result(view.id)?.box;
  const map = scene.map(view);
  // What stood in the middle of its place stands there again.
  const at: Vec2 = middle ? map.toPaper([(middle[0] + middle[2]) / 2, (middle[1] + middle[3]) / 2]) : view.at;
  return {
    ...without(view, 'within', 'border', 'gaps', 'gapMm', 'breaks', 'detail'),
    right,
    up,
    toward,
    at,
    pivot: [(x0 + x1) / 2, (y0 + y1) / 2],
    align: null,
    cut: null,
  };
}

export type Half = 'left' | 'right' | 'upper' | 'lower';

/** Half of a symmetric view, with the signs of symmetry (ISO 128-3). The other half is what lies beyond the middle of its box. */
export function halved(view: ViewRecord, whole: ViewResult, half: Half): ViewRecord {
  const [x0, y0, x1, y1] = whole.box;
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  // What reaches past the box, as rounding does, belongs to the half.
  const far = 0.01 * Math.max(x1 - x0, y1 - y0);
  const box = {
    left: [x0 - far, y0 - far, cx, y1 + far],
    right: [cx, y0 - far, x1 + far, y1 + far],
    upper: [x0 - far, cy, x1 + far, y1 + far],
    lower: [x0 - far, y0 - far, x1 + far, cy],
  }[half] as [number, number, number, number];
  return { ...view, within: { kind: 'box', from: [box[0], box[1]], to: [box[2], box[3]] }, border: 'symmetry' };
}

/** Groups of settings that one view can hand on to others. */
export const SETTINGS = {
  scale: 'Scale',
  lines: 'Lines',
  shading: 'Shading',
  components: 'Components shown and faint',
  spread: 'Spread and pull lines',
  label: 'Label',
  pens: 'Pens',
  cut: 'Hatching and what stays whole',
} as const;
export type SettingsGroup = keyof typeof SETTINGS;

const FIELDS: Readonly<Record<Exclude<SettingsGroup, 'scale' | 'cut'>, readonly (keyof ViewRecord)[]>> = {
  lines: ['hidden', 'hiddenWithinMm', 'hiddenOf', 'tangent', 'tangentWide', 'thinMm'],
  shading: ['shaded', 'flat', 'colorByItem', 'noEdges'],
  components: ['shows', 'faint'],
  spread: ['spread', 'pullLines', 'linesOff'],
  label: ['label'],
  pens: ['pens'],
};

/** The steps that put settings of one view on others. */
export function settingsOn(scene: Scene, from: ViewRecord, ids: readonly string[], groups: readonly SettingsGroup[]): Step[] {
  const steps = new Map<string, Step>();
  const targets = ids.filter((id) => id !== from.id);
  const scaledSteps = groups.includes('scale') ? scaledTogether(scene.document, targets, from.scale) : [];
  for (const s of scaledSteps) if (s.op === 'put') steps.set(s.record.id, s);
  for (const id of targets) {
    const now = steps.get(id);
    const view = now?.op === 'put' ? (now.record as ViewRecord) : scene.one('view', id);
    if (!view) continue;
    let next: ViewRecord = view;
    for (const g of groups) {
      if (g === 'scale') continue;
      if (g === 'cut') {
        const { hatch } = from;
        next = { ...without(next, 'hatch'), ...(hatch ? { hatch } : {}) };
        if (next.cut && from.cut) next = { ...next, cut: { ...next.cut, keptWhole: from.cut.keptWhole } };
        continue;
      }
      const fields = FIELDS[g];
      const taken = Object.fromEntries(fields.flatMap((f) => (from[f] === undefined ? [] : [[f, from[f]]])));
      next = { ...without(next as Partial<ViewRecord>, ...fields), ...taken } as ViewRecord;
    }
    if (JSON.stringify(next) !== JSON.stringify(view) || now) steps.set(id, { op: 'put', record: next });
  }
  return [...steps.values()];
}
