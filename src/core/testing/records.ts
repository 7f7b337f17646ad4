import { PLAIN_VIEW, type ViewRecord } from '../document/records.ts';
import { namedFrame } from '../outline/directions.ts';

/** A view from the front at 1:2 with everything off, but for what is said. */
export const viewRecord = (more: Partial<ViewRecord> = {}): ViewRecord => ({
  type: 'view',
  id: 'view:1',
  sheet: 'sheet:1',
  name: 'Front',
  ...namedFrame('front'),
  ...PLAIN_VIEW,
  scale: 0.5,
  ...more,
});
