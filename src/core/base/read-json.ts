import type { z } from 'zod';
import { QuarryError } from './errors.ts';

/** Says where something does not fit, in one line. */
const whereOf = (path: readonly PropertyKey[]): string => (path.length ? path.map(String).join(' › ') : 'the file');

/**
 * What a JSON file holds, by its schema.
 * @param what it should be, for people: “recipe”
 * @throws QuarryError BAD_REQUEST that says what is wrong and where
 */
export function readJsonAs<T>(schema: z.ZodType<T>, text: string, what: string): T {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new QuarryError('BAD_REQUEST', { text: `This is no ${what}: the file is not JSON. Export one and change that.` });
  }
  const read = schema.safeParse(value);
  if (read.success) return read.data;
  const [first] = read.error.issues;
  throw new QuarryError('BAD_REQUEST', { text: `This is no ${what}: ${whereOf(first!.path)}: ${first!.message}. Export one and change that.` });
}
