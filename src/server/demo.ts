import { count } from 'drizzle-orm';
import { closeDatabase, getDatabase } from './database/client.ts';
import { job } from './database/schema.ts';
import { demoAssembly } from './services/demo-files.ts';
import { createJob } from './services/jobs.ts';

/** Puts the demo job into an empty database; a database with jobs is left alone. */
const file = demoAssembly();
const [row] = await getDatabase().select({ n: count() }).from(job);
if (row?.n === 0 && file) await createJob({ title: 'Shoreline sampling winch SW-40', files: [file], demo: true });
await closeDatabase();
