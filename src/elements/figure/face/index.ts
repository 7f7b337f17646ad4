import type { Face } from '../../face';
import type { FigureRecord } from '../draw';
import { FigureTool } from './figure-tool.svelte';
import Slip from './Slip.svelte';

const SHAPES = [
  ['line', 'Line: press its ends, one after the other', 'Line', '8'],
  ['rectangle', 'Rectangle: press two corners', 'Rectangle', '9'],
  ['circle', 'Circle: press its centre, then its rim', 'Circle', '0'],
  ['arc', 'Arc: press start, a point of it, end', 'Arc', ''],
  ['curve', 'Curve: press points; the last one twice', 'Curve', ''],
] as const;

export const figureFace: Face<FigureRecord> = {
  slip: Slip,
  actions: (_, tools) => SHAPES.map(([shape, label, short, key]) => tools.action(`figure-${shape}`, { label, short, key, group: 'Draw' })),
  tools: (drawing) => SHAPES.map(([shape]) => new FigureTool(drawing, shape)),
};
