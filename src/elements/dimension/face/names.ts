import type { DimensionRecord } from '$elements/dimension/measure';

export const KIND_NAMES: Readonly<Record<DimensionRecord['kind'], string>> = {
  level: 'level',
  upright: 'upright',
  aligned: 'straight across',
  diameter: 'diameter',
  radius: 'radius',
  angle: 'angle',
  arc: 'along the arc',
  chamfer: 'chamfer',
  slope: 'slope',
};
