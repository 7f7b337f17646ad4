import type { Face } from '../../face';
import type { FigureRecord } from '../draw';
import { FigureTool } from './figure-tool.svelte';
import Common from './Common.svelte';
import Slip from './Slip.svelte';
import { TieTool } from './tie-tool.svelte';

const SHAPES = [
  ['line', 'Line: press its ends, one after the other', 'Line', '8'],
  ['rectangle', 'Rectangle: press two corners', 'Rectangle', '9'],
  ['circle', 'Circle: press its centre, then its rim', 'Circle', '0'],
  ['arc', 'Arc: press start, a point of it, end', 'Arc', ''],
  ['curve', 'Curve: press points; the last one twice', 'Curve', ''],
] as const;

export const figureFace: Face<FigureRecord> = {
  slip: Slip,
  actions: (drawing, tools) => [
    ...SHAPES.map(([shape, label, short, key]) => tools.action(`figure-${shape}`, { label, short, key, group: 'Draw' })),
    {
      ...tools.action('figure-tie', { label: 'Line parallel, square or tangent to an edge of a view', key: '' }),
      shelf: false,
      disabled: !drawing.scene.one('figure', drawing.chosen[0]),
    },
  ],
  common: Common,
  tools: (drawing, tools) => [...SHAPES.map(([shape]) => new FigureTool(drawing, shape)), new TieTool(drawing, () => tools.take('pick'))],
};
