import { z } from 'zod';
import { id, text } from '../document/fields.ts';

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
    /** Materials besides the common ones. */
    materials: z
      .array(z.object({ name: z.string().min(1).max(100), densityKgM3: z.number().positive().max(30_000) }).readonly())
      .max(500)
      .readonly(),
    massUnit: z.enum(['kg', 'lb']),
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
  })
  .readonly();
