import type { BalloonRecord } from '../../../core/document/records';
import type { Face } from '../../face';
import { balloonActions, balloonOffers } from './actions';
import Common from './Common.svelte';
import Slip from './Slip.svelte';
import { BalloonTool } from './tool.svelte';
import { WindowTool } from './window-tool.svelte';

export const balloonFace: Face<BalloonRecord> = {
  slip: Slip,
  actions: balloonActions,
  offers: balloonOffers,
  common: Common,
  tools: (drawing, tools) => [new BalloonTool(drawing, () => tools.take('pick')), new WindowTool(drawing, () => tools.take('pick'))],
};
