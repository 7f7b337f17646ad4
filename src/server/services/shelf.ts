import { asc, eq, sql } from 'drizzle-orm';
import { QuarryError } from '../../core/base/errors.ts';
import { getDatabase } from '../database/client.ts';
import type { KeptTable } from '../database/schema.ts';

/** What is kept under names for every job, in versions, beside what comes with the application: recipes, sheet formats, layouts of lists. */
export class Shelf<Body extends { readonly name: string }, Row> {
  private readonly table: KeptTable<Body>;
  private readonly what: string;
  private readonly shipped: readonly Body[];
  private readonly rowOf: (body: Body, shipped: boolean, version: number) => Row;

  /** @param what of people: “The recipe” @param rowOf how one is listed */
  constructor(table: KeptTable<Body>, what: string, shipped: readonly Body[], rowOf: (body: Body, shipped: boolean, version: number) => Row) {
    [this.table, this.what, this.shipped, this.rowOf] = [table, what, shipped, rowOf];
  }

  /** What is shipped, then what was kept, by name. */
  async list(): Promise<Row[]> {
    const { table } = this;
    const kept = await getDatabase().select({ body: table.body, version: table.version }).from(table).orderBy(asc(table.name));
    return [...this.shipped.map((s) => this.rowOf(s, true, 1)), ...kept.map((k) => this.rowOf(k.body, false, k.version))];
  }

  /** @returns the version of one that was kept besides @throws QuarryError NOT_FOUND */
  async byName(name: string): Promise<{ readonly body: Body; readonly version?: number }> {
    const shipped = this.shipped.find((s) => s.name === name);
    if (shipped) return { body: shipped };
    const { table } = this;
    const [row] = await getDatabase().select({ body: table.body, version: table.version }).from(table).where(eq(table.name, name));
    if (!row) throw new QuarryError('NOT_FOUND', { what: `${this.what} “${name}”` });
    return row;
  }

  /** Keeps one under its name, as a new version where there is one. @throws QuarryError BAD_REQUEST for the name of a shipped one */
  async keep(body: Body): Promise<Row> {
    const { table } = this;
    if (this.isShipped(body.name))
      throw new QuarryError('BAD_REQUEST', { text: `“${body.name}” comes with the application and stays as it is. Keep yours under another name.` });
    const [row] = await getDatabase()
      .insert(table)
      .values({ name: body.name, body })
      .onConflictDoUpdate({ target: table.name, set: { body, version: sql`${table.version} + 1`, changedAt: new Date() } })
      .returning({ version: table.version });
    return this.rowOf(body, false, row!.version);
  }

  /** @throws QuarryError NOT_FOUND, BAD_REQUEST for a shipped one */
  async remove(name: string): Promise<void> {
    const { table } = this;
    if (this.isShipped(name)) throw new QuarryError('BAD_REQUEST', { text: `“${name}” comes with the application and stays.` });
    const gone = await getDatabase().delete(table).where(eq(table.name, name)).returning({ id: table.id });
    if (!gone.length) throw new QuarryError('NOT_FOUND', { what: `${this.what} “${name}”` });
  }

  private isShipped(name: string): boolean {
    return this.shipped.some((s) => s.name === name);
  }
}
