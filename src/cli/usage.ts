import { DIRECTION_NAMES } from '../core/outline/directions.ts';

export const USAGE = `Usage: quarry VERB FILE… [options]
  inspect FILE…
  view    FILE… --direction ${DIRECTION_NAMES.join('|')} [--hidden] [--tangent] [--spread auto] [--svg OUT]
          [--only NAME,…|--without NAME,…] [--turn x,y,z] [--within 'x,y;x,y;…'] [--interrupt x:a,b|y:a,b] [--centrelines]
  cut     FILE… --plane nx,ny,nz,d | --line 'x,y;x,y;…' --on DIRECTION [--keep-whole NAME,…] [--svg OUT]
  slice   FILE… --normal nx,ny,nz --at d1,d2,… [--only NAME,…|--without NAME,…]
  explode FILE… [--svg OUT]
  draft   FILE… --out DIR [--sheet A3] [--standard iso|asme] [--recipe NAME|FILE.json] [--format NAME|FILE.json] [--package]
  dimensions FILE… [--unit mm|inch]
  threads FILE…
  proof   FILE… [--drawing DRAWING.json]
  guide   FILE… --out DIR [--language en|de|fr]
  flat    FILE… [--part NAME] [--k 0.44] [--svg OUT]
  recipe  list | export NAME
  format  list | export NAME
  verify  PACKAGE.zip
  compare OLD NEW
--turn: degrees that the model is turned about its own X, then Y, then Z, before it is seen; --within, --interrupt: mm in the view.
STEP, glTF, 3MF, STL or OBJ; --unit mm|cm|m|inch|foot and --up y|z where a format does not say, --unit also where it says wrong.\n--time-limit SECONDS for reading, 300 unless said otherwise.`;
