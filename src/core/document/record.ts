import { z } from 'zod';
import { valueStyle } from '../dimension/record.ts';
import { face, frame, id, length, paths, png, ref, text, vector } from './fields.ts';

export const drawingRecord = z
  .object({
    type: z.literal('drawing'),
    id: z.literal('drawing'),
    standard: z.enum(['iso', 'asme']),
    title: text,
    number: text,
    revision: text,
    date: text,
    drawnBy: text,
    checkedBy: text,
    approvedBy: text,
    owner: text,
    quantity: z.int().min(1).max(1_000_000),
    /** Frame of the front view, which defines all named sides; absent: from the model's -Y with Z up. */
    front: frame.exactOptional(),
    /** How the values of this job are written. */
    values: valueStyle.exactOptional(),
    /** Fields of one's own, by name: formats show them. */
    fields: z.record(z.string().min(1).max(80), text).readonly().exactOptional(),
    /** Address of the build guide of the issue that this is, or came from. */
    guide: z.string().max(500).exactOptional(),
    /** Revision clouds are not drawn and not printed. */
    cloudsOff: z.literal(true).exactOptional(),
    /** Dimensions are not drawn and not printed. */
    dimensionsOff: z.literal(true).exactOptional(),
    /** What someone said of a size that could not be: files of the job that state this unit mean so many mm by it. */
    unit: z
      .object({ stated: z.string().max(40), mm: z.number().positive().max(1e7) })
      .readonly()
      .exactOptional(),
  })
  .readonly();

/** Which model the drawing shows; without it the one it was first made from. */
export const modelRecord = z
  .object({
    type: z.literal('model'),
    id: z.literal('model'),
    /** Id of the stored assembly. */
    model: z.uuid(),
    /** File it came from. */
    name: text,
    /** Changes of the report that someone has looked at and accepted, as `changeId` names them. */
    accepted: z.array(text).max(20_000).readonly().exactOptional(),
  })
  .readonly();

export const pullRecord = z
  .object({
    /** Components that move; a pull that moves nothing is left out. */
    components: paths({ least: 1, beside: ['ranks'] }),
    direction: vector,
    distanceMm: length,
    /** The components turn about an axis instead; radians. */
    turn: z
      .object({ axis: vector, through: vector, angle: z.number().min(-100).max(100) })
      .readonly()
      .exactOptional(),
    /** Evenly spaced: the place of each component in the row, from 1; the last goes the whole distance. */
    ranks: z.array(z.int().min(1)).max(100_000).readonly().exactOptional(),
    /** The first leg of a way round a corner: tightening leaves it. */
    leg: z.literal(true).exactOptional(),
    /** The distance was chosen by someone: tightening leaves it too. */
    typed: z.boolean().exactOptional(),
    /** It is kept, but not made. */
    off: z.boolean().exactOptional(),
    name: text.exactOptional(),
  })
  .readonly();

export const spreadRecord = z
  .object({
    type: z.literal('spread'),
    id,
    name: text,
    pulls: z.array(pullRecord).max(10_000).readonly(),
    /** Sets of components that move as one. */
    together: z
      .array(paths({ least: 2 }))
      .max(10_000)
      .readonly()
      .exactOptional(),
    /** What nothing frees, what holds it, and the way on which least does. */
    held: z
      .array(z.object({ components: paths({ least: 1 }), by: paths(), direction: vector }).readonly())
      .max(10_000)
      .readonly()
      .exactOptional(),
    /** No pull lines in any view. */
    noLines: z.boolean().exactOptional(),
    /** Components whose pull line is not drawn. */
    linesOff: paths().exactOptional(),
  })
  .readonly();

/** Of a property or a column. */
const key = z.string().max(200);

/** What was typed for a part; an absent key falls back to the file. */
export const propertyRecord = z
  .object({
    type: z.literal('property'),
    /** `property:` and the part's id. */
    id,
    part: z.string().max(500),
    /** Typed texts by property key; those of own columns too. */
    values: z.record(key, text).readonly(),
    /** When each was typed, ISO 8601. */
    when: z.record(key, z.string().max(40)).readonly().exactOptional(),
  })
  .readonly();

/** A column of the user's own. */
export const ownColumn = z
  .object({
    /** `own:` and a word. */
    key: z.string().regex(/^own:.{1,80}$/),
    title: z.string().min(1).max(100),
    kind: z.enum(['text', 'number', 'choice', 'yesno', 'link']),
    /** Of a number. */
    unit: z.string().max(20).exactOptional(),
    /** Of a choice. */
    options: z.array(z.string().max(200)).max(200).readonly().exactOptional(),
  })
  .readonly();

/** How the ledger is kept in this job. */
export const ledgerRecord = z
  .object({
    type: z.literal('ledger'),
    id: z.literal('ledger'),
    own: z.array(ownColumn).max(100).readonly(),
    /** Column keys in order; keys that are missing come after, in their usual order. */
    order: z.array(key).max(200).readonly(),
    hidden: z.array(key).max(200).readonly(),
    /** Pixels by column key. */
    widths: z.record(key, z.number().min(20).max(2000)).readonly(),
    /** Columns at the left that stay in sight. */
    frozen: z.int().min(0).max(20),
    /** Drawing numbers of made parts: prefix and digits of the running number. */
    scheme: z.object({ prefix: z.string().max(60), digits: z.int().min(1).max(8) }).readonly(),
    /** Materials besides the common ones; `k`: where the neutral fibre of bent sheet lies, as a share of the thickness. */
    materials: z
      .array(
        z.object({ name: z.string().min(1).max(100), densityKgM3: z.number().positive().max(30_000), k: z.number().min(0).max(1).exactOptional() }).readonly(),
      )
      .max(500)
      .readonly(),
    massUnit: z.enum(['kg', 'lb']),
  })
  .readonly();

/** A screw thread that someone set on a cylinder of a part, or took off it: it counts for every piece of that part. */
export const threadRecord = z
  .object({
    type: z.literal('thread'),
    id,
    face: face(),
    /** As it is written: `M8`, `M10 × 1.25`, `1/2-13 UNC`; empty: there is none. */
    designation: z.string().max(60),
    lengthMm: z.number().positive().max(1e6).exactOptional(),
  })
  .readonly();

/** Item numbers that stay with their parts whatever the next model brings; without it they follow the tree. */
export const numbersRecord = z
  .object({
    type: z.literal('numbers'),
    id: z.literal('numbers'),
    of: z.record(z.string().max(500), z.int().min(1)).readonly(),
    /** The highest number ever given. */
    last: z.int().min(0),
    /** What is written instead of a number: `3.1`. */
    labels: z.record(z.string().max(500), z.string().min(1).max(12)).readonly().exactOptional(),
    /** Ids of what keeps its number when numbers are given anew. */
    locked: z.array(z.string().max(500)).max(20_000).readonly().exactOptional(),
  })
  .readonly();

const layerName = z.string().min(1).max(60);

/** Layers: which are switched off, and what lies on those of one's own. */
export const layersRecord = z
  .object({
    type: z.literal('layers'),
    id: z.literal('layers'),
    /** Not drawn and not printed. */
    off: z.array(layerName).max(200).readonly(),
    own: z
      .array(z.object({ name: layerName, of: z.array(id).max(20_000).readonly() }).readonly())
      .max(100)
      .readonly(),
  })
  .readonly();

/** How the proof is kept in this job. */
export const proofRecord = z
  .object({
    type: z.literal('proof'),
    id: z.literal('proof'),
    /** Codes of what is not checked. */
    off: z.array(z.string().max(60)).max(200).readonly(),
    /** What counts for more or less than usual, by code. */
    severity: z.record(z.string().max(60), z.enum(['must', 'should', 'look'])).readonly(),
    /** Words that are right here, whatever the dictionary says. */
    words: z.array(z.string().min(1).max(80)).max(10_000).readonly().exactOptional(),
    /** Findings that someone lets stand, and why. */
    accepted: z
      .array(z.object({ key: z.string().max(600), reason: z.string().min(1).max(500), when: z.string().max(40) }).readonly())
      .max(10_000)
      .readonly(),
  })
  .readonly();

/** A row of the parts list that no component of the model is of: grease, adhesive, a bought part that is not modelled. Its words are a property record of its id. */
export const rowRecord = z
  .object({
    type: z.literal('row'),
    id,
    /** As it is written: `2`, `0.2`, `as needed`, nothing. */
    quantity: z.string().max(30),
    /** It has no item number. */
    unnumbered: z.literal(true).exactOptional(),
    /** Rows of one's own come after the model's, in this order. */
    order: z.int().min(0),
  })
  .readonly();

/** A revision of the drawing: a row of its revision table. */
export const revisionRecord = z
  .object({
    type: z.literal('revision'),
    id,
    /** Letter or number. */
    letter: z.string().min(1).max(12),
    text,
    date: text,
    by: text,
    order: z.int().min(0),
  })
  .readonly();

/** Of a step: its kind and the path of a component. */
const guideKey = z.string().max(10_100);

/** What a drafter changed about the build guide: words by the key of a step. */
export const guideRecord = z
  .object({
    type: z.literal('guide'),
    id: z.literal('guide'),
    /** Spread that is turned round; absent: the first one. */
    spread: ref('spread', 'clear').nullable().exactOptional(),
    language: z.enum(['en', 'de', 'fr']).exactOptional(),
    /** What it is printed on; absent: A4. */
    paper: z.literal('A3').exactOptional(),
    /** Steps as someone wants them, by their keys: put in order, one with the step before, taken one by one. */
    order: z.array(guideKey).max(20_000).readonly().exactOptional(),
    joined: z.array(guideKey).max(20_000).readonly().exactOptional(),
    split: z.array(guideKey).max(20_000).readonly().exactOptional(),
    words: z
      .record(
        guideKey,
        z
          .object({
            text: text.exactOptional(),
            checks: z.array(text).max(30).readonly().exactOptional(),
            callouts: z.array(text).max(30).readonly().exactOptional(),
            /** A picture of one's own instead of the model's, and its height over its width. */
            picture: z
              .object({ png, ratio: z.number().min(0.01).max(100) })
              .readonly()
              .exactOptional(),
            /** From where it is looked at: which corner of the room. */
            corner: z
              .tuple([z.union([z.literal(1), z.literal(-1)]), z.union([z.literal(1), z.literal(-1)]), z.union([z.literal(1), z.literal(-1)])])
              .readonly()
              .exactOptional(),
          })
          .readonly(),
      )
      .readonly(),
  })
  .readonly();
