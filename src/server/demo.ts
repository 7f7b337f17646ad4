import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { count } from 'drizzle-orm';
import { config } from './config.ts';
import { closeDatabase, getDatabase } from './database/client.ts';
import { job } from './database/schema.ts';
import { createJob } from './services/jobs.ts';

/** Puts the demo job into an empty database; a database with jobs is left alone. */
const file = join(config.root, 'demo', 'sw-40-rev1.step');
const [row] = await getDatabase().select({ n: count() }).from(job);
if (row?.n === 0 && existsSync(file))
  await createJob({ title: 'Shoreline sampling winch SW-40', files: [{ name: 'sw-40-rev1.step', bytes: new Uint8Array(readFileSync(file)) }], demo: true });
await closeDatabase();
