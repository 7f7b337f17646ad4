import type { ViewRecord } from '../document/records.ts';
import { namedFrame } from '../outline/directions.ts';

/** A view from the front at 1:2 with everything off, but for what is said. */
export const viewRecord = (more: Partial<ViewRecord> = {}): ViewRecord => ({
  type: 'view',
  id: 'view:1',
  sheet: 'sheet:1',
  name: 'Front',
  ...namedFrame('front'),
  scale: 0.5,
  at: [0, 0],
  pivot: [0, 0],
  hidden: false,
  tangent: false,
  shaded: false,
  label: false,
  parent: null,
  align: null,
  cut: null,
  spread: null,
  pullLines: false,
  ...more,
});
