import type { BalloonRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { balloonActions } from './actions';
import Slip from './Slip.svelte';
import { BalloonTool } from './tool.svelte';

export const balloonFace: Face<BalloonRecord> = {
  slip: Slip,
  actions: balloonActions,
  tools: (drawing, tools) => [new BalloonTool(drawing, () => tools.take('pick'))],
};
