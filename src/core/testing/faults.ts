import { balloonPlace } from '../../elements/balloon/draw.ts';
import { measured, type DimensionRecord } from '../../elements/dimension/measure.ts';
import { composeSheet } from '../../elements/compose.ts';
import type { Scene } from '../../elements/scene.ts';
import { viewRect } from '../../elements/view/draw.ts';
import { touchingCaps } from '../cut/hatch-styles.ts';
import type { Vec2 } from '../base/vector.ts';
import type { BalloonRecord, DrawingDocument, DrawingDocumentRecord, RecordOf, ViewRecord } from '../document/records.ts';
import type { FindingCode } from '../proof/finding.ts';

/** One way to spoil a good drawing, and what a checker must say of it. */
export interface Fault {
  readonly name: string;
  readonly code: FindingCode;
  /** What is true of the same fault too: it is no false alarm. */
  readonly also?: readonly FindingCode[];
  /** The records after it; undefined when the drawing has nothing that could be spoilt so. */
  spoil(
    scene: Scene,
    random: () => number,
  ): { readonly put?: readonly DrawingDocumentRecord[]; readonly drop?: readonly string[]; readonly about?: string } | undefined;
}

const one = <T>(list: readonly T[], random: () => number): T | undefined => list[Math.floor(random() * list.length)];
const balloonsOf = (scene: Scene): readonly BalloonRecord[] => scene.all('balloon').filter((b) => scene.one('view', b.view)?.spread);
const put = (record: DrawingDocumentRecord, ...more: readonly DrawingDocumentRecord[]) => ({ put: [record, ...more], about: record.id });
const viewOf = (scene: Scene, b: { readonly view: string }): ViewRecord => scene.one('view', b.view)!;
const section = (scene: Scene) => scene.all('view').find((v) => v.cut && !v.detail);
const withCut = (v: ViewRecord, more: Partial<NonNullable<ViewRecord['cut']>>): ViewRecord => ({ ...v, cut: { ...v.cut!, ...more } });
/** A balloon with its circle so far from its tip, paper mm. */
function circleAt(b: BalloonRecord, view: ViewRecord, dx: number, dy: number): BalloonRecord {
  const { tipX, tipY } = balloonPlace(b, view);
  return { ...b, offset: [tipX + dx - view.at[0], tipY + dy - view.at[1]] };
}
/** The view of the machine from one side, in line with the front view. */
const neighbour = (scene: Scene) => scene.all('view').find((v) => v.parent && v.align && !v.cut && !v.spread);
const typed = (scene: Scene, part: string, values: Record<string, string>): DrawingDocumentRecord => {
  const known = scene.one('property', `property:${part}`);
  return { type: 'property', id: `property:${part}`, part, values: { ...known?.values, ...values } };
};
const note = (scene: Scene, at: Vec2, more: Partial<RecordOf<'note'>> = {}): RecordOf<'note'> => ({
  type: 'note',
  id: 'note:seeded',
  view: null,
  sheet: scene.sheets[0]!.id,
  at,
  text: 'Grease before use',
  ...more,
});
const plainDimension = (scene: Scene, random: () => number): DimensionRecord | undefined =>
  one(
    scene.all('dimension').filter((d) => d.of.every((t) => t.edge ?? t.face ?? t.side) && !d.row && !d.text?.before),
    random,
  );

/** Ways to spoil a drawing; every one must be found by its own finding. */
export const FAULTS: readonly Fault[] = [
  {
    name: 'a balloon is removed',
    code: 'NOT_IDENTIFIED',
    spoil(scene, random) {
      const single = balloonsOf(scene).filter((b) => scene.all('balloon').filter((o) => scene.itemAt(o.component) === scene.itemAt(b.component)).length === 1);
      const b = one(single, random);
      return b && { drop: [b.id], about: scene.itemAt(b.component)!.part };
    },
  },
  {
    name: 'an item gets a second balloon',
    code: 'IDENTIFIED_TWICE',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'OVERLAP', 'ALONG_EDGE', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      return b && { put: [{ ...circleAt(b, viewOf(scene, b), 14, 11), id: 'balloon:~seeded' }] };
    },
  },
  {
    name: 'a leader ends on another part',
    code: 'WRONG_TARGET',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'LEADER_LONG', 'OVERLAP', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'ALONG_EDGE'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      const place = b && middleOfOther(scene, b);
      return b && place && put({ ...b, anchor: place });
    },
  },
  {
    name: 'a leader ends beside its part',
    code: 'OFF_TARGET',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'OVERLAP', 'LEADER_LONG'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      const box = b && scene.result(b.view)?.box;
      return b && box && put({ ...b, anchor: [box[0] - 4 / viewOf(scene, b).scale, b.anchor[1]] });
    },
  },
  {
    name: 'the part of a balloon is gone',
    code: 'OFF_TARGET',
    also: ['NOT_IDENTIFIED'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      return b && put({ ...b, component: 'gone' });
    },
  },
  {
    name: 'a balloon has the number of another item',
    code: 'WRONG_TARGET',
    also: ['NOT_IDENTIFIED', 'IDENTIFIED_TWICE'],
    spoil(scene, random) {
      const b = one(
        balloonsOf(scene).filter((x) => seesOwn(scene, x)),
        random,
      );
      const other =
        b &&
        one(
          scene.components.filter((c) => scene.itemOf(c.index) !== scene.itemAt(b.component)),
          random,
        );
      return b && other && put({ ...b, component: other.path });
    },
  },
  {
    name: 'two leaders cross',
    code: 'LEADERS_CROSS',
    also: ['LEADER_SLANT', 'LEADER_LONG', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'OVERLAP', 'ALONG_EDGE'],
    spoil(scene, random) {
      const all = balloonsOf(scene);
      const a = one(all, random);
      const b =
        a &&
        one(
          all.filter((x) => x !== a && x.view === a.view),
          random,
        );
      if (!a || !b) return undefined;
      const view = viewOf(scene, a);
      const [p, q] = [balloonPlace(a, view), balloonPlace(b, view)];
      // Both go through a point beside their tips.
      const meet: Vec2 = [(p.tipX + q.tipX) / 2 + 9, (p.tipY + q.tipY) / 2 - 13];
      const through = (x: BalloonRecord, t: typeof p): BalloonRecord => ({
        ...x,
        offset: [2 * meet[0] - t.tipX - view.at[0], 2 * meet[1] - t.tipY - view.at[1]],
      });
      return put(through(a, p), through(b, q));
    },
  },
  ...(
    [
      ['level', 34, 0.5],
      ['upright', 0.5, -34],
    ] as const
  ).map(([how, dx, dy]): Fault => ({
    name: `a leader is ${how}`,
    code: 'LEADER_SLANT',
    also: ['LEADERS_CROSS', 'OVERLAP', 'BALLOON_OVER_VIEW', 'ALONG_EDGE', 'LEADER_OVER_TEXT', 'OUTSIDE_FRAME'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      return b && put(circleAt(b, viewOf(scene, b), dx, dy));
    },
  })),
  {
    name: 'a leader is far too long',
    code: 'LEADER_LONG',
    also: ['LEADERS_CROSS', 'OVERLAP', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'LEADER_SLANT', 'OUTSIDE_FRAME', 'ALONG_EDGE'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      if (!b) return undefined;
      const { frame } = scene.page(viewOf(scene, b).sheet).geometry;
      return put(circleAt(b, viewOf(scene, b), frame.width * 0.35, -frame.height * 0.35));
    },
  },
  {
    name: 'a leader runs through the label of its view',
    code: 'LEADER_OVER_TEXT',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'LEADER_LONG', 'OVERLAP', 'OUTSIDE_FRAME', 'BALLOON_OVER_VIEW', 'ALONG_EDGE'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      if (!b) return undefined;
      const view = { ...viewOf(scene, b), label: true };
      const [x, y, width, height] = viewRect(view, scene.result(view.id));
      // The label stands under the middle of the view.
      const to: Vec2 = [x + width / 2, y + height + 7];
      const { tipX, tipY } = balloonPlace(b, view);
      const k = 1.25;
      return put({ ...b, offset: [tipX + (to[0] - tipX) * k - view.at[0], tipY + (to[1] - tipY) * k - view.at[1]] }, view);
    },
  },
  {
    name: 'a balloon stands over its view',
    code: 'BALLOON_OVER_VIEW',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'OVERLAP', 'LEADER_LONG', 'ALONG_EDGE', 'LEADER_OVER_TEXT'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      const place = b && middleOfOther(scene, b);
      if (!b || !place) return undefined;
      const view = viewOf(scene, b);
      const [x, y] = scene.map(view).toPaper(place);
      return put({ ...b, offset: [x - view.at[0], y - view.at[1]] });
    },
  },
  {
    name: 'a balloon stands on another one',
    code: 'OVERLAP',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'LEADER_LONG', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'ALONG_EDGE'],
    spoil(scene, random) {
      const all = balloonsOf(scene);
      const a = one(all, random);
      const b =
        a &&
        one(
          all.filter((x) => x !== a && x.view === a.view),
          random,
        );
      return a && b && put({ ...a, offset: [b.offset[0] + 2, b.offset[1]] });
    },
  },
  {
    name: 'a balloon stands in the title block',
    code: 'OVERLAP',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'LEADER_LONG', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'ALONG_EDGE'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      if (!b) return undefined;
      const view = viewOf(scene, b);
      const { frame } = scene.page(view.sheet).geometry;
      return put({ ...b, offset: [frame.x + frame.width - 60 - view.at[0], frame.y + frame.height - 20 - view.at[1]] });
    },
  },
  {
    name: 'a balloon reaches over the frame',
    code: 'OUTSIDE_FRAME',
    also: ['LEADERS_CROSS', 'LEADER_SLANT', 'LEADER_LONG', 'BALLOON_OVER_VIEW', 'LEADER_OVER_TEXT', 'OVERLAP', 'ALONG_EDGE'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      if (!b) return undefined;
      const view = viewOf(scene, b);
      return put({ ...b, offset: [scene.page(view.sheet).geometry.frame.x + 1 - view.at[0], b.offset[1]] });
    },
  },
  {
    name: 'a view stands on another one',
    code: 'OVERLAP',
    spoil(scene) {
      const free = scene.all('view').find((v) => !v.parent && !v.cut && !v.spread && v.name !== 'Front');
      const other = free && scene.viewsOn(free.sheet).find((v) => v !== free);
      return free && other && put({ ...free, at: other.at });
    },
  },
  {
    name: 'a view reaches over the frame',
    code: 'OUTSIDE_FRAME',
    also: ['OVERLAP'],
    spoil(scene) {
      const free = scene.all('view').find((v) => !v.parent && !v.cut && !v.spread && v.name !== 'Front');
      return free && put({ ...free, at: [scene.page(free.sheet).geometry.frame.x + 2, free.at[1]] });
    },
  },
  {
    name: 'a neighbour is out of line',
    code: 'OUT_OF_LINE',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil(scene) {
      const v = neighbour(scene);
      return v && put({ ...v, at: v.align === 'level' ? [v.at[0], v.at[1] + 1.5] : [v.at[0] + 1.5, v.at[1]] });
    },
  },
  {
    name: 'a neighbour stands on the wrong side',
    code: 'PROJECTION',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil(scene) {
      const v = neighbour(scene);
      const parent = v && scene.one('view', v.parent);
      return v && parent && put({ ...v, at: [2 * parent.at[0] - v.at[0], 2 * parent.at[1] - v.at[1]] });
    },
  },
  {
    name: 'the symbol says the other projection',
    code: 'PROJECTION',
    also: ['SCALE_ODD', 'AWKWARD_VALUE'],
    spoil: (scene) => ({ put: [{ ...scene.drawing, standard: scene.drawing.standard === 'iso' ? 'asme' : 'iso' }] }),
  },
  {
    name: 'a scale is none of the standard',
    code: 'SCALE_ODD',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil(scene) {
      const v = scene.all('view').find((x) => !x.parent && !x.cut && !x.spread && x.name !== 'Front');
      return v && put({ ...v, scale: v.scale * 0.83 });
    },
  },
  {
    name: 'a section has no letter',
    code: 'NOT_LABELLED',
    spoil(scene) {
      const v = section(scene);
      return v && put(withCut(v, { letter: '' }));
    },
  },
  {
    name: 'two views have one letter',
    code: 'LETTER_TWICE',
    spoil(scene) {
      const v = section(scene);
      return v && put({ ...v, id: 'view:~seeded', sheet: 'sheet:seeded' }, emptySheet(scene));
    },
  },
  {
    name: 'a letter is easily misread',
    code: 'LETTER_MISREAD',
    spoil(scene) {
      const v = section(scene);
      return v && put(withCut(v, { letter: 'I' }));
    },
  },
  {
    name: 'no view shows where a section is cut',
    code: 'NO_CUTTING_LINE',
    spoil(scene) {
      const v = section(scene);
      return v && put(withCut(v, { shownIn: null }));
    },
  },
  {
    name: 'a cutting line has no letters',
    code: 'NO_CUTTING_LINE',
    spoil(scene) {
      const v = section(scene);
      return v && put(withCut(v, { noLetter: true }));
    },
  },
  {
    name: 'a detail is of nothing',
    code: 'NO_DETAIL_MARK',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil(scene) {
      const v = scene.all('view').find((x) => x.spread);
      return v && put({ ...v, id: 'view:~seeded', sheet: 'sheet:seeded', spread: null, detail: { of: null, letter: 'K' } }, emptySheet(scene));
    },
  },
  { name: 'the parts list is gone', code: 'NO_LIST', spoil: (scene) => ({ drop: scene.all('list').map((l) => l.id) }) },
  {
    name: 'a share of the parts list is missing',
    code: 'NOT_IN_LIST',
    spoil(scene) {
      const [list] = scene.all('list');
      return list && { put: [{ ...list, share: { part: 1, of: 2 } }] };
    },
  },
  {
    name: 'a bought part has a drawing number',
    code: 'BOUGHT_NUMBERED',
    also: ['LIST_GAP'],
    spoil(scene, random) {
      const i = one(scene.items, random)!;
      return { ...put(typed(scene, i.part, { source: 'bought', drawingNumber: 'D-100', supplier: 'Q', supplierNumber: '7' })), about: i.part };
    },
  },
  {
    name: 'a made part has no drawing number',
    code: 'LIST_GAP',
    spoil(scene, random) {
      const i = one(scene.items, random)!;
      return { ...put(typed(scene, i.part, { source: 'made', drawingNumber: '' })), about: i.part };
    },
  },
  {
    name: 'a mass is not known',
    code: 'MASS_UNKNOWN',
    also: ['LIST_GAP'],
    spoil(scene, random) {
      const i = one(scene.items, random)!;
      return { ...put(typed(scene, i.part, { mass: '', material: 'unheard of' })), about: i.part };
    },
  },
  {
    name: 'a description begins with an adjective',
    code: 'NAME_STYLE',
    // Findings that name it are others now.
    also: ['EXPLODED_TOUCH'],
    spoil(scene, random) {
      const i = one(scene.items, random)!;
      return { ...put(typed(scene, i.part, { description: 'Hex bolt' })), about: i.part };
    },
  },
  {
    name: 'a description is in another language',
    code: 'LANGUAGES',
    also: ['EXPLODED_TOUCH'],
    spoil(scene, random) {
      const i = one(
        scene.items.filter((x) => x.part !== 'Plate' && x.part !== 'Ring'),
        random,
      )!;
      return { ...put(typed(scene, i.part, { description: 'Scheibe' })), about: i.part };
    },
  },
  { name: 'a word is spelt wrong', code: 'SPELLING', spoil: (scene) => put(note(scene, freePlace(scene), { text: 'Greese before use' })) },
  {
    name: 'a count of sheets is typed and wrong',
    code: 'SHEET_COUNT',
    spoil: (scene) => put(note(scene, freePlace(scene), { text: `See sheet 1 of ${scene.sheets.length + 3}` })),
  },
  {
    name: 'a column of the list is too narrow for its texts',
    code: 'LIST_CUT_SHORT',
    spoil(scene) {
      const list = scene.all('list')[0];
      return list && put({ ...list, columns: list.columns.map(({ long: _, ...c }) => (c.key === 'description' ? { ...c, widthMm: 8 } : c)) });
    },
  },
  {
    name: 'one balloon is larger than the others',
    code: 'BALLOON_SIZES',
    also: ['OVERLAP', 'LEADER_OVER_TEXT'],
    spoil(scene, random) {
      const b = one(balloonsOf(scene), random);
      return b && put({ ...b, before: '12×' });
    },
  },
  { name: 'a note is written too small', code: 'TEXT_SMALL', also: ['OVERLAP'], spoil: (scene) => put(note(scene, freePlace(scene), { heightMm: 1.4 })) },
  {
    name: 'a dimension is written too small',
    code: 'TEXT_SMALL',
    spoil(scene, random) {
      const d = plainDimension(scene, random);
      return d && put({ ...d, style: { ...d.style, heightMm: 1.5 } });
    },
  },
  {
    name: 'dimensions are as large as item numbers',
    code: 'NUMBERS_SMALL',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil: (scene) => ({ put: [{ ...scene.drawing, values: { ...scene.drawing.values, heightMm: 3.5 } }] }),
  },
  {
    name: 'a title is too long for its cell',
    code: 'TEXT_CUT',
    spoil: (scene) => put({ ...scene.drawing, title: '12-34-56 '.repeat(90) }),
  },
  { name: 'the title block has no title', code: 'TITLE_GAP', spoil: (scene) => put({ ...scene.drawing, title: '' }) },
  {
    name: 'another value is written than measured',
    code: 'TYPED_VALUE',
    also: ['OVERLAP'],
    spoil(scene, random) {
      const d = plainDimension(scene, random);
      return d && put({ ...d, text: { ...d.text, typed: '99' } });
    },
  },
  {
    name: 'a size is given twice',
    code: 'DIMENSION_TWICE',
    also: ['OVERLAP', 'OUTSIDE_FRAME'],
    spoil(scene, random) {
      const d = plainDimension(scene, random);
      return d && { put: [{ ...d, id: 'dimension:~seeded', away: d.away + 7 }] };
    },
  },
  {
    name: 'a dimension lost what it measured',
    code: 'LOST_TARGET',
    spoil(scene, random) {
      const d = one(
        scene.all('dimension').filter((x) => x.of.some((t) => t.edge ?? t.face)),
        random,
      );
      return (
        d &&
        put({
          ...d,
          of: d.of.map((t) => ({
            ...t,
            ...(t.edge ? { edge: { ...t.edge, lost: true as const } } : t.face ? { face: { ...t.face, lost: true as const } } : {}),
          })),
        })
      );
    },
  },
  {
    name: 'a value changed and nobody has seen it',
    code: 'CHANGED_VALUE',
    spoil(scene, random) {
      const d = plainDimension(scene, random);
      return d && put({ ...d, seen: (measured(d, scene) ?? []).map((m) => m.value + 3) });
    },
  },
  {
    name: 'a distance goes to a centre without a mark',
    code: 'NO_CENTRELINE',
    spoil: (scene) => ({ drop: scene.all('centre').map((c) => c.id) }),
  },
  {
    name: 'a shaft is cut along its axis',
    code: 'CUT_LENGTHWISE',
    spoil(scene) {
      const v = section(scene);
      return v?.cut!.keptWhole.length ? put(withCut(v, { keptWhole: [] })) : undefined;
    },
  },
  {
    name: 'two touching parts are hatched alike',
    code: 'HATCH_ALIKE',
    spoil(scene) {
      const v = section(scene);
      const result = v && scene.result(v.id);
      const [pair] = result ? [...touchingCaps(result.caps, v.scale)].filter(([, o]) => o.size) : [];
      if (!v || !pair) return undefined;
      const of = [pair[0], [...pair[1]][0]!].map((c) => scene.components[c]!.path);
      return put({ ...v, hatch: [{ of, pattern: 'metal', angle: Math.PI / 4, spacingMm: 2 }] });
    },
  },
  {
    name: 'a part is left inside what holds it',
    code: 'HELD_TOGETHER',
    also: ['EXPLODED_TOUCH', 'SEEN_NOWHERE', 'OFF_TARGET', 'WRONG_TARGET', 'HIDDEN_TARGET', 'BALLOON_OVER_VIEW', 'LEADER_SLANT', 'ALONG_EDGE', 'LEADER_LONG'],
    spoil(scene) {
      const [spread] = scene.all('spread');
      const view = spread && scene.all('view').find((v) => v.spread === spread.id);
      const pull = spread?.pulls.find((p) => p.components.length === 1);
      const other = scene.components.find((c) => !spread?.pulls.some((p) => p.components.includes(c.path)));
      if (!spread || !view || !pull || !other) return undefined;
      const held = [{ components: pull.components, by: [other.path], direction: pull.direction }];
      return { put: [{ ...spread, pulls: spread.pulls.filter((p) => !p.components.includes(pull.components[0]!)), held }], about: view.id };
    },
  },
  {
    name: 'exploded parts touch',
    code: 'EXPLODED_TOUCH',
    also: ['OFF_TARGET', 'WRONG_TARGET', 'HIDDEN_TARGET', 'BALLOON_OVER_VIEW', 'LEADER_SLANT', 'SEEN_NOWHERE', 'ALONG_EDGE', 'LEADER_LONG'],
    spoil(scene) {
      const [spread] = scene.all('spread');
      const view = spread && scene.all('view').find((v) => v.spread === spread.id);
      return spread && view && { put: [{ ...spread, pulls: spread.pulls.map((p) => ({ ...p, distanceMm: p.distanceMm * 0.02 })) }], about: view.id };
    },
  },
  {
    name: 'a view shows nothing',
    code: 'VIEW_EMPTY',
    also: ['NO_CUTTING_LINE'],
    spoil(scene) {
      const v = scene.all('view').find((x) => !x.parent && !x.cut && !x.spread && x.name !== 'Front');
      return v && put({ ...v, within: { kind: 'circle', at: [1e5, 1e5], radius: 1 } });
    },
  },
  {
    name: 'an item can be seen in no view',
    code: 'SEEN_NOWHERE',
    also: [
      'OFF_TARGET',
      'WRONG_TARGET',
      'LOST_TARGET',
      'ALONG_EDGE',
      'EXPLODED_TOUCH',
      'CHANGED_VALUE',
      'AWKWARD_VALUE',
      'NO_CENTRELINE',
      'CUT_LENGTHWISE',
      'DIMENSION_TWICE',
    ],
    spoil(scene, random) {
      const i = one(scene.items, random)!;
      const of = i.components.map((c) => scene.components[c]!.path);
      return { put: scene.all('view').map((v) => ({ ...v, shows: { only: false, of } })), about: i.part };
    },
  },
  { name: 'a layer is switched off', code: 'LAYER_OFF', spoil: () => put({ type: 'layers', id: 'layers', off: ['Dimensions'], own: [] }) },
  { name: 'a note stands on a view', code: 'OVERLAP', spoil: (scene) => put(note(scene, overFront(scene))) },
  {
    name: 'a note reaches over the frame',
    code: 'OUTSIDE_FRAME',
    spoil: (scene) => put(note(scene, [scene.page(scene.sheets[0]!.id).geometry.frame.x - 6, 200])),
  },
];

const emptySheet = (scene: Scene): DrawingDocumentRecord => ({ ...scene.sheets[0]!, id: 'sheet:seeded', order: 99, name: 'Seeded' });

/** Where nothing stands on the first sheet. */
function freePlace(scene: Scene): Vec2 {
  const sheet = scene.sheets[0]!.id;
  const { frame } = scene.page(sheet).geometry;
  const boxes = composeSheet(scene, sheet)
    .groups.filter((g) => g.role !== 'frame')
    .map((g) => g.box);
  for (let y = frame.y + 6; y < frame.y + frame.height - 10; y += 6)
    for (let x = frame.x + 6; x < frame.x + frame.width - 40; x += 6)
      if (boxes.every(([bx, by, w, h]) => x + 34 < bx || x > bx + w || y + 6 < by || y - 2 > by + h)) return [x, y];
  return [frame.x + 6, frame.y + 6];
}

/** The middle of what the front view shows. */
function overFront(scene: Scene): Vec2 {
  const view = scene.viewsOn(scene.sheets[0]!.id)[0]!;
  const { map } = scene.result(view.id)!;
  const { window, component } = map;
  const filled = [...component.keys()].filter((i) => component[i]! >= 0);
  const i = filled[filled.length >> 1]!;
  return scene.map(view).toPaper([window.minX + (i % window.width) * window.pixelMm, window.maxY - Math.floor(i / window.width) * window.pixelMm]);
}

/** A place well inside another item than a balloon's own, where its view shows that, view space. */
function middleOfOther(scene: Scene, b: BalloonRecord): Vec2 | undefined {
  const result = scene.result(b.view);
  if (!result) return undefined;
  const { window, component } = result.map;
  const own = scene.itemAt(b.component);
  const far = 5 / (window.pixelMm * viewOf(scene, b).scale);
  const reach = Math.ceil(far);
  for (let y = reach; y < window.height - reach; y += 2)
    for (let x = reach; x < window.width - reach; x += 2) {
      const c = component[y * window.width + x]!;
      if (c < 0 || scene.itemOf(c) === own) continue;
      const same = [-reach, 0, reach].every((dy) => [-reach, 0, reach].every((dx) => component[(y + dy) * window.width + x + dx] === c));
      if (same) return [window.minX + (x + 0.5) * window.pixelMm, window.maxY - (y + 0.5) * window.pixelMm];
    }
  return undefined;
}

/** Does a leader end where its view shows its own item? */
function seesOwn(scene: Scene, b: BalloonRecord): boolean {
  const result = scene.result(b.view);
  if (!result) return false;
  const { window, component } = result.map;
  const [i, j] = [Math.floor((b.anchor[0] - window.minX) / window.pixelMm), Math.floor((window.maxY - b.anchor[1]) / window.pixelMm)];
  const own = scene.component(b.component)?.index;
  return component[j * window.width + i] === own;
}

/** A document after a fault. */
export function spoilt(document: DrawingDocument, change: NonNullable<ReturnType<Fault['spoil']>>): DrawingDocument {
  const drop = new Set(change.drop);
  const kept = Object.entries(document).filter(([id]) => !drop.has(id));
  return Object.fromEntries([...kept, ...(change.put ?? []).map((r) => [r.id, r] as const)]);
}
