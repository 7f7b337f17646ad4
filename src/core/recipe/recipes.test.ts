import { describe, expect, test } from 'vitest';
import { recordsOf, type DrawingDocument } from '../document/records.ts';
import { anyRecord } from '../document/schemas.ts';
import { featuresSource } from '../features/part-features.ts';
import { findingsOf } from '../proof/findings.ts';
import { bentStrip } from '../testing/bent.ts';
import { translation } from '../base/placement.ts';
import { assemblyOf, box, cylinder, joined, prism } from '../testing/shapes.ts';
import { smallMachine } from '../testing/drafting.ts';
import { computeView } from '../views/compute-view.ts';
import { composeSheet } from '../../elements/compose.ts';
import { Scene } from '../../elements/scene.ts';
import { measured } from '../../elements/dimension/measure.ts';
import { applyRecipe, type Applied } from './apply.ts';
import { readRecipe, writeRecipe } from './file.ts';
import { recipeFrom } from './keep.ts';
import { previewRecipe } from './preview.ts';
import type { Recipe } from './record.ts';
import { SHIPPED, shippedRecipe } from './shipped.ts';

type Model = ReturnType<typeof assemblyOf>;
const apply = (name: string | Recipe, { assembly, geometries }: Model, onto?: Applied): Promise<Applied> =>
  applyRecipe(typeof name === 'string' ? shippedRecipe(name)! : name, assembly, geometries, {
    date: '2026-01-01',
    compute: async (spec) => computeView(assembly, geometries, spec),
    ...(onto ? { onto } : {}),
  });
const sceneOf = ({ document, results }: Applied, { assembly, geometries }: Model) =>
  new Scene({ document, assembly, results, features: featuresSource(geometries) });
const must = (made: Applied, model: Model) => findingsOf(sceneOf(made, model)).filter((f) => f.severity === 'must');
const sheetNames = (d: DrawingDocument) =>
  recordsOf(d, 'sheet')
    .sort((a, b) => a.order - b.order)
    .map((s) => s.name);

/** What people see of a set: its sheets in order, with their views and what else is on them. */
const sheetsIn = ({ document }: Applied) =>
  recordsOf(document, 'sheet')
    .filter((s) => !s.form)
    .sort((a, b) => a.order - b.order)
    .map((s) => {
      const views = recordsOf(document, 'view').filter((v) => v.sheet === s.id);
      const ids = new Set(views.map((v) => v.id));
      const counts: Record<string, number> = {};
      for (const r of Object.values(document))
        if (('view' in r && typeof r.view === 'string' && ids.has(r.view)) || ('sheet' in r && r.sheet === s.id)) counts[r.type] = (counts[r.type] ?? 0) + 1;
      return {
        name: s.name,
        size: s.size,
        landscape: s.landscape,
        part: s.part,
        counts,
        views: views
          .map(({ name, toward, up, scale, at, cut, laid, spread, shows, gaps }) => ({
            name,
            toward,
            up,
            scale,
            at: at.map((x) => Math.round(x)),
            cut: cut && { normal: cut.normal, d: cut.d },
            laid,
            spread: spread !== null,
            shows,
            gaps: gaps?.length,
          }))
          .sort((a, b) => a.name.localeCompare(b.name)),
      };
    });

const machine = smallMachine();
const bentPart = { name: 'Bracket', geometry: bentStrip([{ length: 60, angle: Math.PI / 2, radius: 3 }, { length: 40 }], 2, 100) };
const bentAlone = assemblyOf([bentPart]);
const bentMachine = assemblyOf([bentPart, { name: 'Axle', geometry: cylinder(8, 60), at: [0, 0, 40] }]);
/** A base that carries a sub-assembly twice. */
const withGroup = ((): Model => {
  const flat = assemblyOf([
    { name: 'Base', geometry: box([-60, -30, -10], [60, 30, 0]) },
    { name: 'Stand', geometry: box([-10, -10, 0], [10, 10, 20]) },
    { name: 'Hat', geometry: box([-14, -14, 20], [14, 14, 26]) },
  ]);
  const [root, base, stand, hat] = flat.assembly.nodes;
  const tower = (x: number) => ({ ...base!, name: 'Tower', product: 'Tower', part: -1, placement: translation([x, 0, 0]) });
  const nodes = [root!, base!, tower(-30), { ...stand!, parent: 2 }, { ...hat!, parent: 2 }, tower(30), { ...stand!, parent: 5 }, { ...hat!, parent: 5 }];
  return { ...flat, assembly: { ...flat.assembly, nodes } };
})();
const withParts = await apply('Arrangement with part sheets', machine);

describe('shipped recipes', () => {
  test('are whole, have names of their own, and survive their file', () => {
    expect(new Set(SHIPPED.map((r) => r.name)).size).toBe(4);
    for (const r of SHIPPED) expect(readRecipe(writeRecipe(r))).toEqual(r);
  });

  test.each(SHIPPED.map((r) => r.name))('%s gives a set that nothing has to be put right on, and says of every slot what became of it', async (name) => {
    const made = await apply(name, machine);
    expect(must(made, machine)).toEqual([]);
    expect(made.slots.length).toBeGreaterThan(0);
    for (const s of made.slots) expect(s.why, s.name).not.toBe('');
    for (const r of Object.values(made.document)) expect(anyRecord.safeParse(r).error?.issues ?? [], r.id).toEqual([]);
  });
});

describe('part sheets', () => {
  test('one for each made part, in the order of the numbers, after the arrangement', () => {
    expect(sheetNames(withParts.document)).toEqual([
      'General arrangement',
      'Exploded view and parts list',
      ...['Plate', 'Block left', 'Block right', 'Tower', 'Post', 'Ring', 'Cap']
        .filter((n) => withParts.slots.some((s) => s.sheet === `Part: ${n}`))
        .map((n) => `Part: ${n}`),
    ]);
    expect(withParts.slots.filter((s) => s.sheet.startsWith('Part: ')).length).toBeGreaterThanOrEqual(5);
  });

  test('its title block speaks of the part: name, number, material, how many', () => {
    const scene = sceneOf(withParts, machine);
    const sheet = scene.sheets.find((s) => s.part === 'Plate')!;
    const block = composeSheet(scene, sheet.id).groups.find((g) => g.role === 'title')!;
    expect(block.items.flatMap((i) => (i.kind === 'text' ? [i.text] : []))).toEqual(expect.arrayContaining(['Plate', 'P-1', 'S355']));
  });

  test('only that part is shown, and its sizes are those of its box', () => {
    const scene = sceneOf(withParts, machine);
    const sheet = scene.sheets.find((s) => s.part === 'Tower')!;
    const views = scene.viewsOn(sheet.id);
    for (const v of views) expect(v.shows).toEqual({ only: true, of: ['Tower'] });
    const values = views.flatMap((v) =>
      scene.at(v.id).flatMap((r) => (r.type === 'dimension' ? (measured(r, scene) ?? []).map((m) => Math.round(m.value * 1000) / 1000) : [])),
    );
    // 20 × 15 × 62.
    expect(values.sort((a, b) => a - b)).toEqual([15, 20, 62]);
  });

  test('mirror images share a sheet, which says so', async () => {
    // An L with one hole off its middle, and its mirror image.
    const l = (k: 1 | -1) => {
      const outline = [
        [0, 0],
        [60, 0],
        [60, 10],
        [10, 10],
        [10, 40],
        [0, 40],
      ].map(([x, y]) => [k * x!, y!] as const);
      return prism([k > 0 ? outline : [...outline].reverse()], 20);
    };
    const skew = (k: 1 | -1) => joined([l(k)], [box([Math.min(0, 8 * k), 0, 20], [Math.max(0, 8 * k), 5, 26])]);
    const model = assemblyOf([
      { name: 'Rest left', geometry: skew(1) },
      { name: 'Rest right', geometry: skew(-1), at: [200, 0, 0] },
    ]);
    const made = await apply('Arrangement with part sheets', model);
    expect(sheetNames(made.document).filter((n) => n.startsWith('Part: '))).toEqual(['Part: Rest left']);
    expect(made.slots.at(-1)).toMatchObject({ sheet: 'Part: Rest right', filled: true, why: 'On the sheet of Rest left, opposite hand.' });
    const note = recordsOf(made.document, 'note')[0]!;
    expect(note.text).toBe('As drawn: 1 Rest left\nOpposite hand: 2 Rest right');
    expect(must(made, model)).toEqual([]);
  });

  test('several small ones share a sheet: each whole in its cell, with what it is, once; large ones have their own', async () => {
    const together: Recipe = {
      format: 1,
      name: 'Shared',
      words: '',
      sheets: [
        {
          name: 'Parts: {subject}',
          per: 'made part',
          together: 4,
          slots: [
            { want: 'part views', name: 'Views', dimensions: true, centrelines: true },
            { want: 'list', name: 'List' },
          ],
        },
      ],
    };
    const model = assemblyOf([
      { name: 'Bed', geometry: box([-300, -200, 0], [300, 200, 12]) },
      { name: 'Pad', geometry: box([0, 0, 12], [40, 30, 20]), material: 'PA6' },
      { name: 'Peg', geometry: cylinder(8, 30), at: [80, 0, 12] },
      { name: 'Lug', geometry: box([100, 0, 12], [130, 20, 30]) },
      { name: 'Bar', geometry: box([0, 60, 12], [60, 70, 20]) },
      { name: 'Tile', geometry: box([0, 100, 12], [25, 125, 18]) },
    ]);
    const made = await apply(together, model);
    const scene = sceneOf(made, model);
    expect(scene.sheets.map((s) => s.name)).toEqual(
      ['Parts: Bed', 'Parts: Pad, Peg, Lug, Bar', 'Parts: Tile'].sort((a, b) => Number(a.includes(',')) - Number(b.includes(','))),
    );
    const shared = scene.sheets.at(-1)!;
    const notes = recordsOf(made.document, 'note').filter((n) => n.sheet === shared.id);
    expect(notes.map((n) => n.text.split('\n')[0])).toEqual(['*2  Pad*', '*3  Peg*', '*4  Lug*', '*5  Bar*']);
    expect(notes[0]!.text).toContain('PA6 · 1 off');
    // Every view of a part stands in the cell under its note, and nothing lies on anything.
    for (const [i, name] of ['Pad', 'Peg', 'Lug', 'Bar'].entries()) {
      const views = scene.viewsOn(shared.id).filter((v) => v.shows?.of[0] === name);
      expect(views.length).toBeGreaterThan(0);
      for (const v of views) expect([v.at[0] > notes[i]!.at[0], v.at[1] > notes[i]!.at[1]]).toEqual([true, true]);
    }
    // A set of part sheets alone has no balloons.
    expect(must(made, model).filter((f) => f.code !== 'NOT_IDENTIFIED')).toEqual([]);
    expect(made.slots.filter((s) => s.name === 'List' && !s.filled).map((s) => s.why)).toEqual(['A sheet of several parts has none.']);
    // Applied again nothing comes.
    const again = await apply(together, model, made);
    expect(scene.sheets.map((s) => s.id)).toEqual(sceneOf(again, model).sheets.map((s) => s.id));
  });

  test('a table of holes stands where nothing else does; a part without holes has none, and it is said', async () => {
    const withHoles: Recipe = {
      format: 1,
      name: 'Holes',
      words: '',
      sheets: [
        {
          name: '{subject}',
          per: 'made part',
          slots: [
            { want: 'part views', name: 'Views' },
            { want: 'hole table', name: 'Holes' },
          ],
        },
      ],
    };
    const made = await apply(withHoles, machine);
    const tables = recordsOf(made.document, 'positions');
    const filled = made.slots.filter((s) => s.name === 'Holes' && s.filled);
    // The ring alone has a hole.
    expect([tables.length, filled.map((s) => s.sheet)]).toEqual([1, ['Ring']]);
    expect(made.slots.find((s) => s.sheet === 'Tower' && s.name === 'Holes')).toMatchObject({ filled: false, why: 'No view sees a hole along its axis.' });
    expect(must(made, machine).filter((f) => f.code !== 'NOT_IDENTIFIED')).toEqual([]);
  });

  test('an assembly of one part has its sheet already', async () => {
    const made = await apply('Arrangement with part sheets', assemblyOf([{ name: 'Alone', geometry: box([0, 0, 0], [30, 20, 10]) }]));
    expect(sheetNames(made.document)).toEqual(['Part']);
    expect(made.slots.at(-1)!.why).toBe('The arrangement is the sheet of this one part.');
  });

  test('a turned pin says its diameters once and its lengths; a bored ring is cut', async () => {
    const model = assemblyOf([
      { name: 'Bolster', geometry: joined([cylinder(5, 34)], [cylinder(8, 4), [0, 0, 34]]) },
      { name: 'Ring', geometry: cylinder(15, 7, 48, 10), at: [40, 0, 0] },
    ]);
    const made = await apply('Arrangement with part sheets', model);
    const scene = sceneOf(made, model);
    const said = (part: string) => {
      const sheet = scene.sheets.find((s) => s.part === part)!;
      return scene
        .viewsOn(sheet.id)
        .flatMap((v) =>
          scene.at(v.id).flatMap((r) => (r.type === 'dimension' ? (measured(r, scene) ?? []).map((m) => `${m.kind} ${Math.round(m.value)}`) : [])),
        );
    };
    expect(said('Bolster').sort()).toEqual(['diameter 10', 'diameter 16', 'length 38', 'length 4']);
    expect(said('Ring').sort()).toEqual(['diameter 20', 'diameter 30', 'length 7']);
    const ring = scene.sheets.find((s) => s.part === 'Ring')!;
    expect(scene.viewsOn(ring.id).some((v) => v.cut)).toBe(true);
    expect(must(made, model)).toEqual([]);
  });
});

describe('bent plates', () => {
  test('each has its flat pattern with sizes and marks, and the table of its bends; what is not bent has no sheet', async () => {
    const bent = bentStrip([{ length: 60, angle: Math.PI / 2, radius: 3 }, { length: 40 }], 2, 100);
    const model = assemblyOf([
      { name: 'Bracket', geometry: bent },
      { name: 'Block', geometry: box([0, 0, -40], [30, 30, -10]) },
    ]);
    const made = await apply('Bent plates', model);
    const scene = sceneOf(made, model);
    expect(sheetNames(made.document).slice(-2)).toEqual(['Bent plate: Bracket', 'Cut list']);
    const sheet = scene.sheets.at(-2)!;
    const flat = scene.viewsOn(sheet.id).find((v) => v.laid)!;
    const said = scene.at(flat.id).flatMap((r) => (r.type === 'dimension' ? (measured(r, scene) ?? []).map((m) => m.value) : []));
    // Legs and the allowance by DIN 6935: r/s = 1.5, k = 0.65 + 0.5 lg 1.5 of half the thickness (from memory).
    const length = 100 + (Math.PI / 2) * (3 + (0.65 + 0.5 * Math.log10(1.5)) * 1);
    for (const wanted of [100, length]) expect(said.some((v) => Math.abs(v - wanted) < 1e-6)).toBe(true);
    const notes = scene.at(flat.id).flatMap((r) => (r.type === 'note' ? [r.text] : []));
    expect(notes).toEqual(expect.arrayContaining(['Flat pattern, 2 thick', expect.stringMatching(/^A (up|down) 90°$/)]));
    const table = scene.at(sheet.id).find((r) => r.type === 'table')!;
    expect(table.type === 'table' && table.rows[1]!.slice(3, 5)).toEqual(['90°', '3']);
    // The strip of the tests has no edges of its own: only its pattern is drawn.
    expect(must(made, model).filter((f) => f.code !== 'VIEW_EMPTY')).toEqual([]);
    // References to edges of the pattern name the pattern: a newer model never takes them for edges of the part.
    const edges = scene.at(flat.id).flatMap((r) => (r.type === 'dimension' ? r.of.flatMap((t) => t.edge ?? []) : []));
    expect(edges.every((e) => e.geometry.endsWith('~laid'))).toBe(true);
  });
});

describe('applied again', () => {
  test('what stands stays as it is, changed by hand or not, and nothing comes twice', async () => {
    const moved = { ...withParts, document: { ...withParts.document } };
    const [first] = recordsOf(moved.document, 'sheet').filter((s) => s.part);
    moved.document[first!.id] = { ...first!, name: 'My own name' };
    const again = await apply('Arrangement with part sheets', machine, moved);
    expect(again.document).toEqual(moved.document);
    expect(again.slots.every((s) => s.why === 'It stands already.')).toBe(true);
  });

  test('a newer model’s part gets its sheet, the others keep theirs', async () => {
    const more = assemblyOf([
      { name: 'Base', geometry: box([0, 0, 0], [80, 60, 10]) },
      { name: 'Lid', geometry: box([0, 0, 10], [80, 60, 14]) },
    ]);
    const before = await apply(
      'Arrangement with part sheets',
      assemblyOf([
        { name: 'Base', geometry: box([0, 0, 0], [80, 60, 10]) },
        { name: 'Foot', geometry: box([0, 0, -9], [9, 9, 0]) },
      ]),
    );
    const after = await apply('Arrangement with part sheets', more, before);
    expect(sheetNames(after.document).filter((n) => n.startsWith('Part: '))).toEqual(['Part: Base', 'Part: Foot', 'Part: Lid']);
  });
});

describe('kept from a drawing', () => {
  test('its sheets become slots that another assembly fills', async () => {
    const recipe = recipeFrom(sceneOf(withParts, machine), 'Ours', 'Kept in a test.');
    expect(readRecipe(writeRecipe(recipe))).toEqual(recipe);
    expect(recipe.sheets.map((s) => [s.per, s.slots.map((x) => x.want)])).toEqual([
      ['whole', ['arrangement', 'section']],
      ['whole', ['exploded view', 'list']],
      ['made part', ['part views']],
    ]);
    expect(recipe.sheets[2]!.name).toBe('Part: {subject}');
    const other = assemblyOf([
      { name: 'Bed', geometry: box([0, 0, 0], [200, 100, 20]) },
      { name: 'Head', geometry: box([20, 20, 20], [60, 60, 90]) },
    ]);
    const made = await apply(recipe, other);
    expect(sheetNames(made.document)).toEqual(expect.arrayContaining(['Part: Bed', 'Part: Head']));
    expect(must(made, other)).toEqual([]);
  });

  // What each view, table and dimension was for is kept: on its own assembly a kept recipe gives the same sheets back.
  test.each([
    ['Arrangement', machine],
    ['Arrangement with part sheets', machine],
    ['Bench set', withGroup],
    ['Bent plates', bentMachine],
    ['Bent plates', bentAlone],
    ['parts that share sheets, with tables of holes', machine],
  ] as const)('%s, kept and applied to its own assembly, gives the same sheets', async (name, model) => {
    const shared: Recipe = {
      format: 1,
      name,
      words: '',
      sheets: [
        { name: 'Small parts: {subject}', per: 'made part', together: 4, slots: [{ want: 'part views', name: 'Views', centrelines: true }] },
        {
          name: 'Whole',
          per: 'whole',
          slots: [
            { want: 'view', name: 'Top', look: 'top' },
            { want: 'hole table', name: 'Holes' },
          ],
        },
      ],
    };
    const made = await apply(shippedRecipe(name) ?? shared, model);
    const kept = recipeFrom(sceneOf(made, model), 'Ours', '');
    expect(sheetsIn(await apply(readRecipe(writeRecipe(kept)), model))).toEqual(sheetsIn(made));
  });

  test('own views keep their sides, lists and notes their looks; a side view stands in line again', async () => {
    const recipe: Recipe = {
      format: 1,
      name: 'Two views',
      words: '',
      sheets: [
        {
          name: 'Views',
          per: 'whole',
          slots: [
            { want: 'view', name: 'Front', look: 'front', dimensions: true },
            { want: 'view', name: 'Left', look: 'left', beside: 0, hidden: true },
            { want: 'note', name: 'Note', like: { at: [30, 30], text: 'Grease all pins.' } },
            { want: 'flat pattern', name: 'Flat' },
          ],
        },
      ],
    };
    const made = await apply(recipe, machine);
    const scene = sceneOf(made, machine);
    const [sheet] = scene.sheets;
    const [front, left] = ['Front', 'Left'].map((n) => scene.viewsOn(sheet!.id).find((v) => v.name === n)!);
    expect(left!.parent).toBe(front!.id);
    expect(left!.align).toBe('level');
    // First angle: what is seen from the left stands to the right.
    expect(left!.at[0]).toBeGreaterThan(front!.at[0]);
    expect(left!.hidden).toBe(true);
    expect(scene.at(sheet!.id).some((r) => r.type === 'note' && r.text === 'Grease all pins.')).toBe(true);
    expect(made.slots.map((s) => s.filled)).toEqual([true, true, true, false]);
    // Kept once more it asks for the same.
    expect(recipeFrom(scene, 'Two views', '').sheets[0]!.slots.slice(0, 2)).toMatchObject(recipe.sheets[0]!.slots.slice(0, 2));
  });
});

test('a sheet size that there is not gets a sentence, whatever the recipe begins with', async () => {
  const { assembly, geometries } = machine;
  const options = { date: '2026-01-01', sheet: 'A9', compute: async () => Promise.reject(new Error('nothing is computed')) };
  for (const r of SHIPPED) await expect(applyRecipe(r, assembly, geometries, options)).rejects.toThrow('There is no sheet “A9”');
});

describe('before anything is made', () => {
  test('the preview says which sheets would come, which stand, and what the model has nothing for', () => {
    const fresh = previewRecipe(shippedRecipe('Bench set')!, machine.assembly, {}, () => false);
    expect(fresh.leftOut).toEqual(['{subject}']);
    expect(fresh.sheets.map((s) => s.name)).toEqual(['Whole']);
    const again = previewRecipe(shippedRecipe('Arrangement with part sheets')!, machine.assembly, withParts.document, () => false);
    expect(again.sheets.every((s) => s.stands)).toBe(true);
  });

  test('a file that is no recipe gets a sentence that says where', () => {
    expect(() => readRecipe('{')).toThrow('not JSON');
    expect(() => readRecipe(JSON.stringify({ ...SHIPPED[0], sheets: [] }))).toThrow(/no recipe: sheets/);
    expect(() => readRecipe(JSON.stringify({ ...SHIPPED[0], sheets: [{ name: 'x', per: 'moon', slots: [] }] }))).toThrow(/sheets › 0 › per/);
  });
});
