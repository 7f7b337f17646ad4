import { DIRECTION_NAMES } from '../core/outline/directions.ts';

export const USAGE = `Usage: quarry VERB FILE… [options]
  inspect FILE…
  view    FILE… --direction ${DIRECTION_NAMES.join('|')} [--hidden] [--tangent] [--spread auto] [--svg OUT]
  cut     FILE… --plane nx,ny,nz,d | --line 'x,y;x,y;…' --on DIRECTION [--keep-whole NAME,…] [--svg OUT]
  explode FILE… [--svg OUT]
  draft   FILE… --out DIR [--sheet A3] [--standard iso|asme]
  compare OLD NEW
STEP, glTF, 3MF, STL or OBJ; --unit mm|cm|m|inch|foot and --up y|z where a format does not say, --unit also where it says wrong.\n--time-limit SECONDS for reading, 300 unless said otherwise.`;
