import { describe, expect, test } from 'vitest';
import { QuarryError } from '../core/base/errors.ts';
import { BLANK_DRAWING, PLAIN_LEDGER, type DrawingDocumentRecord } from '../core/document/records.ts';
import { errorResponse } from './http.ts';
import {
  check,
  componentList,
  decisionsRequest,
  editRequest,
  explodeRequest,
  sectionRequest,
  sinceVersion,
  takeRequest,
  unitRequest,
  uploadOptions,
  versionRequest,
} from './validation.ts';

const uuid = '00000000-0000-4000-8000-000000000000';
const frame = { right: [1, 0, 0], up: [0, 0, 1], toward: [0, -1, 0] } as const;
/** Every kind of record with everything that it may hold. */
const records: readonly DrawingDocumentRecord[] = [
  { ...BLANK_DRAWING, title: 'T', number: 'N', quantity: 3, unit: { stated: 'm', mm: 1 } },
  { type: 'sheet', id: 'sheet:1', order: 1, name: 'GA', size: 'A3', landscape: true },
  {
    type: 'view',
    id: 'view:1',
    sheet: 'sheet:1',
    name: 'Front',
    ...frame,
    scale: 0.5,
    at: [1, 2],
    pivot: [3, 4],
    hidden: true,
    hiddenWithinMm: 5,
    tangent: true,
    shaded: true,
    flat: true,
    colorByItem: true,
    thinMm: 0.4,
    label: true,
    parent: 'view:2',
    align: 'level',
    cut: { normal: [0, -1, 0], d: 4, letter: 'A', keptWhole: ['Pin'], shape: { kind: 'half', across: [1, 0, 0], from: 2 }, behindMm: 7, shownIn: 'view:2' },
    spread: 'spread:1',
    pullLines: true,
  },
  {
    type: 'spread',
    id: 'spread:1',
    name: 'S',
    pulls: [
      {
        components: ['Pin', 'Nut'],
        direction: [0, 0, 1],
        distanceMm: 30,
        turn: { axis: [0, 0, 1], through: [1, 2, 3], angle: 0.5 },
        ranks: [1, 2],
        leg: true,
        typed: true,
        off: true,
        name: 'Pin out',
      },
    ],
    together: [['Pin', 'Nut']],
    noLines: true,
    linesOff: ['Pin'],
  },
  { type: 'balloon', id: 'balloon:1', view: 'view:1', component: 'Pin', anchor: [1, 2], offset: [3, 4], end: 'dot', byHand: true },
  { type: 'list', id: 'list:1', sheet: 'sheet:1', share: { part: 1, of: 2 }, columns: [{ key: 'item', title: 'Item', widthMm: 10 }] },
  { type: 'property', id: 'property:Pin', part: 'Pin', values: { finish: 'zinc' }, when: { finish: '2026-01-01' } },
  {
    ...PLAIN_LEDGER,
    own: [{ key: 'own:price', title: 'Price', kind: 'choice', unit: '€', options: ['a'] }],
    order: ['own:price'],
    hidden: ['remark'],
    widths: { item: 60 },
    materials: [{ name: 'Oak', densityKgM3: 700 }],
  },
  { type: 'model', id: 'model', model: uuid, name: 'rev2.step', accepted: ['moved Pin'] },
  { type: 'numbers', id: 'numbers', of: { Pin: 3 }, last: 4 },
];
const edit = (record: unknown) => ({ version: 0, label: 'x', steps: [{ op: 'put', record }] });
const wrong = (schema: Parameters<typeof check>[0], value: unknown): string => {
  try {
    check(schema, value);
    return 'taken';
  } catch (e) {
    expect(e).toMatchObject({ code: 'BAD_REQUEST' });
    return (e as QuarryError).message.replace('The request is not understood: ', '').split(':')[0]!;
  }
};

describe('a record goes through as it is', () => {
  test.each(records.map((r) => [r.type, r] as const))('%s, with all it may hold', (_, r) => {
    expect(check(editRequest, edit(r)).steps).toEqual([{ op: 'put', record: r }]);
  });
  test('a cut of each shape', () => {
    const view = records[2] as Extract<DrawingDocumentRecord, { type: 'view' }>;
    for (const shape of [
      {
        kind: 'stepped',
        across: [1, 0, 0],
        steps: [
          { from: 0, d: 1 },
          { from: 5, d: 2 },
        ],
      },
      { kind: 'aligned', across: [1, 0, 0], from: 3, turn: 0.5 },
      { kind: 'local', outline: [0, 0, 9, 0, 0, 9] },
    ] as const) {
      const record = { ...view, cut: { ...view.cut!, shape } };
      expect(check(editRequest, edit(record)).steps).toEqual([{ op: 'put', record }]);
      const cut = { normal: view.cut!.normal, d: 1, shape };
      expect(check(sectionRequest, { frame, cut })).toEqual({ frame, cut });
    }
  });
});

describe('what is wrong is named by its place', () => {
  const view = records[2]!;
  test.each<[string, unknown]>([
    ['steps.0.record.scale', { ...view, scale: 0 }],
    ['steps.0.record.scale', { ...view, scale: Infinity }],
    ['steps.0.record.at.1', { ...view, at: [0, NaN] }],
    ['steps.0.record.up', { ...view, up: [0, 1] }],
    ['steps.0.record.thinMm', { ...view, thinMm: 11 }],
    ['steps.0.record.hiddenWithinMm', { ...view, hiddenWithinMm: -1 }],
    ['steps.0.record.align', { ...view, align: 'beside' }],
    ['steps.0.record.cut.shape.outline', { ...view, cut: { ...(view as { cut: object }).cut, shape: { kind: 'local', outline: [0, 0, 1, 1] } } }],
    ['steps.0.record.cut.behindMm', { ...view, cut: { ...(view as { cut: object }).cut, behindMm: -3 } }],
    ['steps.0.record.cut.letter', { ...view, cut: { ...(view as { cut: object }).cut, letter: 'AAAAA' } }],
    // The shape's plane lies square to the cut: across may not run along the normal.
    ['steps.0.record.cut.shape', { ...view, cut: { ...(view as { cut: object }).cut, shape: { kind: 'half', across: [0, -1, 0], from: 2 } } }],
    ['steps.0.record.size', { ...records[1], size: 'A9' }],
    ['steps.0.record.id', { ...records[0], id: 'other' }],
    ['steps.0.record.quantity', { ...records[0], quantity: 0 }],
    ['steps.0.record.quantity', { ...records[0], quantity: 1.5 }],
    ['steps.0.record.unit.mm', { ...records[0], unit: { stated: 'm', mm: 0 } }],
    ['steps.0.record.columns', { ...records[5], columns: [] }],
    ['steps.0.record.share.part', { ...records[5], share: { part: 0, of: 1 } }],
    ['steps.0.record.own.0.key', { ...records[7], own: [{ key: 'price', title: 'P', kind: 'text' }] }],
    ['steps.0.record.materials.0.densityKgM3', { ...records[7], materials: [{ name: 'x', densityKgM3: 0 }] }],
    ['steps.0.record.widths.item', { ...records[7], widths: { item: 5 } }],
    ['steps.0.record.model', { ...records[8], model: 'none' }],
    ['steps.0.record.of.Pin', { ...records[9], of: { Pin: 0 } }],
    ['steps.0.record.pulls.0.ranks.0', { ...records[3], pulls: [{ components: [], direction: [0, 0, 1], distanceMm: 1, ranks: [0] }] }],
    ['steps.0.record.pulls.0.distanceMm', { ...records[3], pulls: [{ components: [], direction: [0, 0, 1], distanceMm: 1e9 }] }],
    ['steps.0.record.type', { type: 'nothing' }],
    ['steps.0.record', undefined],
  ])('%s', (place, record) => expect(wrong(editRequest, edit(record))).toBe(place));
  test('an edit has a version, a name and between one and 5,000 steps', () => {
    const drop = { op: 'drop', id: 'a' };
    const whole = { version: 2, label: 'x', steps: [drop] };
    expect(wrong(editRequest, { ...whole, token: uuid })).toBe('taken');
    expect(wrong(editRequest, { ...whole, steps: Array(5000).fill(drop) })).toBe('taken');
    expect(
      [
        { version: -1 },
        { version: 1.5 },
        { version: '2' },
        { token: 'x' },
        { label: '' },
        { label: 'x'.repeat(201) },
        { steps: [] },
        { steps: Array(5001).fill(drop) },
        { steps: [{ op: 'drop', id: '' }] },
      ].map((c) => wrong(editRequest, { ...whole, ...c })),
    ).toEqual(['version', 'version', 'version', 'token', 'label', 'label', 'steps', 'steps', 'steps.0.id']);
    expect(wrong(editRequest, null)).toBe('body');
  });
  test('pulls of a request: a direction with a length, components by number', () => {
    const pull = { components: [0, 2], direction: [0, 0, 1], distanceMm: 5 };
    const asked = (change: object, more: object = {}) => wrong(explodeRequest, { kind: 'check', pulls: [{ ...pull, ...change }], ...more });
    expect([
      asked({}),
      asked({ direction: [0, 0, 0.6] }),
      asked({ direction: [0.1, 0.1, 0] }),
      asked({ components: [-1] }),
      asked({ components: [1.5] }),
      asked({ turn: { axis: [0, 0, 1], through: [0, 0, 0], angle: 101 } }),
      asked({}, { from: -1 }),
      asked({}, { paper: { frame, scale: 0, gapMm: 1 } }),
      asked({}, { paper: { frame, scale: 1, gapMm: 1001 } }),
      asked({}, { paper: { frame, scale: 1, gapMm: 10, linesOff: [1] } }),
    ]).toEqual([
      'taken',
      'taken',
      'pulls.0.direction',
      'pulls.0.components.0',
      'pulls.0.components.0',
      'pulls.0.turn.angle',
      'from',
      'paper.scale',
      'paper.gapMm',
      'taken',
    ]);
    const fit = { kind: 'fit', pulls: [], frame, room: [100, 50], scales: [1] };
    expect(
      [
        fit,
        { ...fit, room: [100, 0] },
        { ...fit, scales: [] },
        { ...fit, scales: [0] },
        { kind: 'clear', pulls: [], components: [], direction: [0, 0, 1], gapMm: 5 },
        { kind: 'else' },
      ].map((r) => wrong(explodeRequest, r)),
    ).toEqual(['taken', 'room.1', 'scales', 'scales.0', 'components', 'kind']);
  });
  test('what is left out has its usual value', () => {
    expect(check(takeRequest, { version: 1 })).toEqual({ version: 1, decisions: [], reuseNumbers: false, accepted: [] });
    expect(check(decisionsRequest, {})).toEqual({ decisions: [] });
    expect(check(uploadOptions, {})).toEqual({ standard: 'iso', sheet: null, recipe: null, format: null, up: 'z' });
    expect(check(uploadOptions, { standard: 'asme', sheet: 'B', unitMm: '25.4', up: 'y' })).toEqual({
      standard: 'asme',
      sheet: 'B',
      recipe: null,
      format: null,
      unitMm: 25.4,
      up: 'y',
    });
    expect([wrong(uploadOptions, { sheet: 'A9' }), wrong(uploadOptions, { unitMm: '0' }), wrong(uploadOptions, { up: 'x' })]).toEqual([
      'sheet',
      'unitMm',
      'up',
    ]);
    expect([wrong(unitRequest, { version: 0, unit: 'inch' }), wrong(unitRequest, { version: 0, unit: 'ell' }), wrong(versionRequest, {})]).toEqual([
      'taken',
      'unit',
      'version',
    ]);
  });
  test('versions and components in an address', () => {
    expect([check(sinceVersion, '7'), check(sinceVersion, '0')]).toEqual([7, 0]);
    for (const odd of ['-1', '1.5', 'x', '2147483648']) expect(wrong(sinceVersion, odd)).toBe('body');
    expect(check(componentList, '3,5,800000')).toEqual([3, 5, 800000]);
    for (const odd of ['', '3,', ',3', '3;5', '1234567', Array(202).fill('1').join(',')]) expect([odd, wrong(componentList, odd)]).toEqual([odd, 'body']);
    expect(check(componentList, Array(200).fill('1').join(','))).toHaveLength(200);
  });
});

describe('an error as an answer', () => {
  test.each<[number, QuarryError]>([
    [404, new QuarryError('NOT_FOUND', { what: 'The job' })],
    [409, new QuarryError('STALE_VERSION', { have: 1, now: 2 })],
    [409, new QuarryError('STEP_DOES_NOT_FIT', { reason: 'x' })],
    [409, new QuarryError('NOTHING_TO_UNDO', {})],
    [409, new QuarryError('NOTHING_TO_REDO', {})],
    [403, new QuarryError('NOT_SAME_ORIGIN', {})],
    [413, new QuarryError('FILE_TOO_LARGE', { file: 'a', bytes: 2, limitBytes: 1 })],
    [400, new QuarryError('FILE_EMPTY', { file: 'a' })],
    [500, new QuarryError('INTERNAL', { id: 'x' })],
  ])('%d: %s', async (status, error) => {
    const answer = errorResponse(error);
    expect(answer.status).toBe(status);
    expect(await answer.json()).toEqual({ error: { code: error.code, message: error.message, details: error.details } });
  });
});
