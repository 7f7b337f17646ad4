import { SHEET_FORMATS } from '$core/sheet/formats';

export const ISO_NAMES = SHEET_FORMATS.filter((f) => f.standard === 'iso').map((f) => f.name);
export const INCH_NAMES = SHEET_FORMATS.filter((f) => f.standard === 'asme').map((f) => f.name);
