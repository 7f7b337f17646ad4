import { describe, expect, test } from 'vitest';
import { decodeString } from './part21-graph.ts';
import { readExchangeFacts } from './part21.ts';

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

describe('how large and how deep', () => {
  const chain = (levels: number) =>
    file(
      `#1=X();\n${Array.from({ length: levels + 1 }, (_, i) => `${product(10 + i * 10, `p${i}`)}${i ? uses(16 + i * 10, 2 + i * 10, 12 + i * 10) : ''}`).join('\n')}`,
    );
  test('200 levels are read, one more is not; 200,000 components are, more are not', () => {
    expect([code(chain(200)), code(chain(201))]).toEqual(['fine', 'FILE_TOO_DEEP']);
    /** Five times of ten uses make 100,000; the sixth of `last`. */
    const many = (last: number) => {
      const rows = [product(10, 'p0')];
      for (let i = 1; i <= 6; i++) {
        rows.push(product(i * 100, `p${i}`));
        for (let k = 0; k < (i === 6 ? last : 10); k++) rows.push(uses(i * 100 + 10 + k, i === 1 ? 12 : (i - 1) * 100 + 2, i * 100 + 2));
      }
      return file(`#1=X();\n${rows.join('\n')}`);
    };
    expect([code(many(2)), code(many(3))]).toEqual(['fine', 'FILE_TOO_MANY']);
  });
  test.each([
    ['(1.E9,0.,0.)', 'fine'],
    ['(-123456789.25,2.5E-3,0.)', 'fine'],
    ['(1.E+10,0.,0.)', 'FILE_DAMAGED'],
    ['(0.,1.0E300,0.)', 'FILE_DAMAGED'],
    ['(0.,0.,-1.5E+010)', 'FILE_DAMAGED'],
    ['(0.,12345678901.,0.)', 'FILE_DAMAGED'],
    ['(0.,1234567890.,0.)', 'fine'],
    ['(nan,0.,0.)', 'FILE_DAMAGED'],
    ['(0.,-INF,0.)', 'FILE_DAMAGED'],
    ['(1.E-30,1.E-10,0.)', 'fine'],
  ])('a point at %s: %s', (point, expected) => {
    expect(code(file(`#1=CARTESIAN_POINT('E99 (nan)',${point});`))).toBe(expected);
  });
});

describe('the length unit', () => {
  const unit = (data: string) => readExchangeFacts(file(data), 'a.step').unit;
  const si = (n: number, prefix: string) => `#${n}=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(${prefix},.METRE.));`;
  // ISO 10303-41: prefixes of SI units, and conversions on top of them.
  test.each([
    ['.MILLI.', 'mm'],
    ['.CENTI.', 'cm'],
    ['$', 'm'],
    ['.KILO.', 'km'],
    ['.MICRO.', 'µm'],
  ])('SI with %s is %s', (prefix, name) => expect(unit(si(5, prefix))).toBe(name));
  test.each([
    ['INCH', 'inch'],
    ['in', 'inch'],
    ['FOOT', 'foot'],
    ['feet', 'foot'],
  ])('a conversion called %s is %s, also where its base stands first', (name, expected) => {
    const conversion = `#7=(CONVERSION_BASED_UNIT('${name}',#6)LENGTH_UNIT()NAMED_UNIT(#5));\n#6=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(25.4),#5);`;
    const context =
      "#8=(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNIT_ASSIGNED_CONTEXT((#9,#7))REPRESENTATION_CONTEXT('',''));\n#9=(NAMED_UNIT(*)PLANE_ANGLE_UNIT()SI_UNIT($,.RADIAN.));";
    expect(unit(`${si(5, '.MILLI.')}\n${conversion}\n${context}`)).toBe(expected);
  });
  test('none at all counts as millimetres', () => expect(unit('#1=X();')).toBe('mm'));
});

describe('products, their occurrences and their bodies', () => {
  const facts = readExchangeFacts(
    file(`#1=X();
${product(10, 'Machine')}
#20=PRODUCT('P-7','Bolt','hex head',(#1));
#21=PRODUCT_DEFINITION_FORMATION_WITH_SPECIFIED_SOURCE('','',#20,.NOT_KNOWN.);
#22=PRODUCT_DEFINITION('d','',#21,#1);
#30=NEXT_ASSEMBLY_USAGE_OCCURRENCE('N1','left','by the door',#12,#22,$);
#31=NEXT_ASSEMBLY_USAGE_OCCURRENCE('N2','right','',#12,#22,'x');
#40=PRODUCT_DEFINITION_SHAPE('','',#22);
#41=SHAPE_REPRESENTATION('',(#45),#1);
#42=SHAPE_DEFINITION_REPRESENTATION(#40,#41);
#43=ADVANCED_BREP_SHAPE_REPRESENTATION('',(#44,#46),#1);
#44=MANIFOLD_SOLID_BREP('Body, 1',#1);
#45=AXIS2_PLACEMENT_3D('',#1,$,$);
#46=SHELL_BASED_SURFACE_MODEL('Skin',(#1));
#47=SHAPE_REPRESENTATION_RELATIONSHIP('','',#41,#43);
#50=MANIFOLD_SOLID_BREP('Stray',#1);`),
    'a.step',
  );
  test('have all their texts; what is used in others is no assembly, what uses others is', () => {
    expect(facts.products).toEqual([
      { id: 'Machine', name: 'Machine', description: '', occurrences: [], hasChildren: true },
      { id: 'P-7', name: 'Bolt', description: 'hex head', occurrences: ['left', 'by the door', 'N1', 'right', '', 'N2'], hasChildren: false },
    ]);
  });
  test('a body belongs to the product whose shape holds it, also through an equivalent one; a stray belongs to none', () => {
    expect([...facts.bodies].map(([id, b]) => [id, b.name, b.product?.name])).toEqual([
      [44, 'Body, 1', 'Bolt'],
      [50, 'Stray', undefined],
      [46, 'Skin', 'Bolt'],
    ]);
  });
});

describe('volumes, densities and properties of other kinds', () => {
  const property = (n: number, name: string, text: string, target: number, item: string) =>
    `#${n}=PROPERTY_DEFINITION('${name}','${text}',#${target});\n#${n + 1}=${item};\n#${n + 2}=REPRESENTATION('',(#${n + 1}),#1);\n#${n + 3}=PROPERTY_DEFINITION_REPRESENTATION(#${n},#${n + 2});`;
  const read = (...rows: string[]) =>
    readExchangeFacts(file(`#1=X();\n#5=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.CENTI.,.METRE.));\n${product(10, 'Shaft')}\n${rows.join('\n')}`), 'a.step');
  test('a stated volume is in the file’s unit; validation is for programs, not among the properties', () => {
    const facts = read(property(20, 'geometric validation property', 'volume', 12, "MEASURE_REPRESENTATION_ITEM('volume measure',VOLUME_MEASURE(2.5),#1)"));
    expect(Object.fromEntries(facts.statedVolumes)).toEqual({ Shaft: 2500 });
    expect(facts.properties.size).toBe(0);
  });
  // 7,850 kg/m³ as writers give it: kg/m³, g/cm³, g/mm³.
  test.each([
    ['7850.', 7850],
    ['7.85', 7850],
    ['7.85E-003', 7850],
    ['-1.', undefined],
  ])('a density of %s', (text, expected) => {
    const facts = read(
      property(20, 'material property', 'density', 12, `MEASURE_REPRESENTATION_ITEM('density',POSITIVE_RATIO_MEASURE(${text}),#1)`),
      property(30, 'material property', 'material name', 12, "DESCRIPTIVE_REPRESENTATION_ITEM('S355','')"),
    );
    expect(facts.materials.get('Shaft')).toEqual({ name: 'S355', ...(expected ? { densityKgM3: expected } : {}) });
  });
  test('a density without a name is no material', () => {
    expect(
      read(property(20, 'material property', 'density', 12, "MEASURE_REPRESENTATION_ITEM('density',POSITIVE_RATIO_MEASURE(7850.),#1)")).materials.size,
    ).toBe(0);
  });
  test('numbers, texts and measures are properties by their own name, else by the definition’s; of nobody they are nothing', () => {
    const facts = read(
      property(20, 'user defined attribute', '', 12, "INTEGER_REPRESENTATION_ITEM('Teeth',18)"),
      property(30, 'user defined attribute', '', 12, "REAL_REPRESENTATION_ITEM('Module',2.5)"),
      property(40, 'Finish', '', 12, "DESCRIPTIVE_REPRESENTATION_ITEM('','zinc')"),
      property(50, 'user defined attribute', '', 12, "VALUE_REPRESENTATION_ITEM('Length',LENGTH_MEASURE(12.5))"),
      property(60, 'user defined attribute', '', 1, "DESCRIPTIVE_REPRESENTATION_ITEM('Lost','x')"),
      property(70, 'user defined attribute', '', 12, 'SOMETHING_ELSE()'),
    );
    expect(Object.fromEntries(facts.properties)).toEqual({ Shaft: { Teeth: '18', Module: '2.5', Finish: 'zinc', Length: '12.5' } });
    expect(facts.entities.get('Shaft')).toMatchObject({ 'property:Teeth': '#21', 'property:Finish': '#41' });
  });
});
