import { PointingTool } from '../../note/face/pointing-tool.svelte';
import type { Face } from '../../face';
import type { SignRecord } from '../draw';
import { OFFERS, signAt } from './made';
import Slip from './Slip.svelte';

export const signFace: Face<SignRecord> = {
  slip: Slip,
  actions: (_, tools) => OFFERS.map(({ sign, label, short }) => tools.action(`sign-${sign}`, { label, short, key: '', group: 'Note' })),
  tools: (drawing, tools) =>
    OFFERS.map(
      (offer) =>
        new PointingTool(drawing, {
          name: `sign-${offer.sign}`,
          title: offer.short,
          points: offer.points,
          ...(offer.end ? { end: offer.end } : {}),
          make: (id, spot) => signAt(offer, id, spot, drawing),
          done: () => tools.take('pick'),
        }),
    ),
};
