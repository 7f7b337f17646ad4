import { expect, test } from 'vitest';
import { writeCsv } from './csv.ts';

// RFC 4180.
test('commas, quotes and line ends are quoted; lines end with CR LF', () => {
  expect(writeCsv([['a', 'b,c', 'say "x"', 'two\nlines']])).toBe('\ufeffa,"b,c","say ""x""","two\nlines"\r\n');
});
test('what a spreadsheet would run is shown as text; numbers stay numbers', () => {
  expect(writeCsv([['=1+1', '@x', '+5', '-cmd', '-1.5']])).toBe("\ufeff'=1+1,'@x,'+5,'-cmd,-1.5\r\n");
});
