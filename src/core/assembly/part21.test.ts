import { describe, expect, test } from 'vitest';
import { decodeString, readExchangeFacts } from './part21.ts';

const file = (data: string) => `ISO-10303-21;\nHEADER;\nFILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 }'));\nENDSEC;\nDATA;\n${data}\nENDSEC;\nEND-ISO-10303-21;\n`;
const code = (text: string) => {
  try {
    readExchangeFacts(text, 'a.step');
    return 'fine';
  } catch (e) {
    return (e as { code: string }).code;
  }
};
const product = (n: number, name: string) =>
  `#${n}=PRODUCT('${name}','${name}','',(#1));\n#${n + 1}=PRODUCT_DEFINITION_FORMATION('','',#${n});\n#${n + 2}=PRODUCT_DEFINITION('d','',#${n + 1},#1);`;
const uses = (n: number, parent: number, child: number) => `#${n}=NEXT_ASSEMBLY_USAGE_OCCURRENCE('${n}','','',#${parent},#${child},$);`;

describe('files that cannot be read', () => {
  test.each([
    ['empty', '', 'FILE_EMPTY'],
    ['only blanks', '  \n ', 'FILE_EMPTY'],
    ['another format', 'solid cube\nfacet normal 0 0 1', 'FILE_NOT_STEP'],
    ['binary junk', '\u0000\u0001\u0002PK\u0003', 'FILE_NOT_STEP'],
    ['cut short', 'ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\n#1=CARTESIAN_POINT', 'FILE_TRUNCATED'],
    ['a reference to nothing', file('#1=A(#2);'), 'FILE_BROKEN_REFERENCE'],
    ['a product in itself', file(`#1=X();\n${product(10, 'loop')}\n${uses(20, 12, 12)}`), 'FILE_CYCLE'],
    ['a product in its own child', file(`#1=X();\n${product(10, 'a')}\n${product(20, 'b')}\n${uses(30, 12, 22)}\n${uses(31, 22, 12)}`), 'FILE_CYCLE'],
  ])('%s', (_, text, expected) => {
    expect(code(text)).toBe(expected);
  });

  test('2,000 levels are refused, not a stack overflow', () => {
    const levels = Array.from({ length: 2000 }, (_, i) => `${product(10 + i * 10, `p${i}`)}${i ? uses(16 + i * 10, 2 + i * 10, 12 + i * 10) : ''}`);
    expect(code(file(`#1=X();\n${levels.join('\n')}`))).toBe('FILE_TOO_DEEP');
  });

  test('a thousand million components by repetition are refused', () => {
    const rows: string[] = [product(10, 'p0')];
    for (let i = 1; i <= 9; i++) {
      rows.push(product(i * 100, `p${i}`));
      for (let k = 0; k < 10; k++) rows.push(uses(i * 100 + 10 + k, i === 1 ? 12 : (i - 1) * 100 + 2, i * 100 + 2));
    }
    expect(code(file(`#1=X();\n${rows.join('\n')}`))).toBe('FILE_TOO_MANY');
  });

  test('references inside strings and comments do not count', () => {
    expect(code(file("#1=A('see #99', 'it''s #98'); /* #97 */"))).toBe('fine');
  });
});

describe('what the text says', () => {
  test('user-defined properties and material with density (ISO 10303-41, -45)', () => {
    const facts = readExchangeFacts(
      file(`#1=X();\n${product(10, 'Shaft')}
#20=PROPERTY_DEFINITION('Drawing number','user defined attribute',#12);
#21=DESCRIPTIVE_REPRESENTATION_ITEM('Drawing number','SW-1');
#22=REPRESENTATION('',(#21),#1);
#23=PROPERTY_DEFINITION_REPRESENTATION(#20,#22);
#30=PROPERTY_DEFINITION('material property','density',#12);
#31=MEASURE_REPRESENTATION_ITEM('density',POSITIVE_RATIO_MEASURE(7.85E-003),#1);
#32=REPRESENTATION('',(#31),#1);
#33=PROPERTY_DEFINITION_REPRESENTATION(#30,#32);
#40=PROPERTY_DEFINITION('material property','material name',#12);
#41=DESCRIPTIVE_REPRESENTATION_ITEM('S355','');
#42=REPRESENTATION('',(#41),#1);
#43=PROPERTY_DEFINITION_REPRESENTATION(#40,#42);`),
      'a.step',
    );
    expect(facts.schema).toBe('AUTOMOTIVE_DESIGN');
    expect(facts.properties.get('Shaft')).toEqual({ 'Drawing number': 'SW-1' });
    expect(facts.materials.get('Shaft')).toEqual({ name: 'S355', densityKgM3: 7850 });
    // So that every value can say which entity it was read from.
    expect(facts.entities.get('Shaft')).toEqual({ name: '#10', 'property:Drawing number': '#21', material: '#41' });
  });

  test('files it refers to', () => {
    expect(readExchangeFacts(file(`#1=X();\n#2=DOCUMENT_FILE('folder/part.stp','','',#1,'',$);`), 'a.step').externalFiles).toEqual(['part.stp']);
  });

  // ISO 10303-21, 6.4.3: \S\, \X\, \X2\, \X4\ and doubled apostrophes; raw UTF-8 is common practice of writers.
  test.each([
    ["it''s", 'it’s'.replace('’', "'")],
    ['M8 \\X2\\00D7\\X0\\ 25', 'M8 × 25'],
    ['\\X4\\0001F527\\X0\\', '🔧'],
    ['\\X\\E9', 'é'],
    ['caf\\S\\i', 'café'],
    ['SchrÃ¤ubchen'.replace('Ã¤', '\u00c3\u00a4'), 'Schräubchen'],
    ['<b>&amp;</b>', '<b>&amp;</b>'],
  ])('%s is read as %s', (raw, text) => {
    expect(decodeString(raw)).toBe(text);
  });
});
