import { USUAL_SIZES } from '$core/sheet/paper';

export const ISO_NAMES = USUAL_SIZES.filter((f) => f.standard === 'iso').map((f) => f.name);
export const INCH_NAMES = USUAL_SIZES.filter((f) => f.standard === 'asme').map((f) => f.name);
