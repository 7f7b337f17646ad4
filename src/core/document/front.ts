import { namedFrame, type ViewFrame } from '../outline/directions.ts';
import type { DrawingDocument } from './records.ts';

/** The side that is the front of a drawing, as it is seen: the frame that all its named sides go by. */
export function frontOf(doc: DrawingDocument): ViewFrame {
  const d = doc['drawing'];
  return (d?.type === 'drawing' ? d.front : undefined) ?? namedFrame('front');
}
