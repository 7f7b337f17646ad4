// Writes the advance widths of the sheet lettering, so that the core measures text without a font reader.
// Run after the font changes: node scripts/lettering-metrics.mjs
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import * as fontkit from 'fontkit';

const font = fontkit.openSync(fileURLToPath(new URL('../static/fonts/osifont.ttf', import.meta.url)));
const groups = new Map();
for (const code of font.characterSet) {
  if (code < 32 || code > 0xffff) continue;
  const w = font.glyphForCodePoint(code).advanceWidth;
  groups.set(w, (groups.get(w) ?? '') + String.fromCodePoint(code));
}
const capHeight = font.glyphForCodePoint(72).bbox.maxY;
const rows = [...groups].sort((a, b) => a[0] - b[0]).map(([w, chars]) => `  [${w}, ${JSON.stringify(chars)}],`);
writeFileSync(
  fileURLToPath(new URL('../src/core/picture/lettering-metrics.ts', import.meta.url)),
  `// Made by scripts/lettering-metrics.mjs from static/fonts/osifont.ttf: do not edit.
export const UNITS_PER_EM = ${font.unitsPerEm};
/** Height of a capital, font units. */
export const CAP_HEIGHT = ${capHeight};
/** Advance width in font units and the characters that have it. */
export const ADVANCES: readonly (readonly [number, string])[] = [
${rows.join('\n')}
];
`,
);
console.log(`${font.characterSet.length} characters, capital ${capHeight}/${font.unitsPerEm}`);
