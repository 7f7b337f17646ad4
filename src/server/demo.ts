import { count } from 'drizzle-orm';
import { closeDatabase, getDatabase } from './database/client.ts';
import { job } from './database/schema.ts';
import { shippedRecipe } from '../core/recipe/shipped.ts';
import { demoAssembly, demoBracket } from './services/demo-files.ts';
import { createJob } from './services/jobs.ts';

/** Puts the demo jobs into an empty database, the small one drawn by a recipe; a database with jobs is left alone. */
const [file, bracket] = [demoAssembly(), demoBracket()];
const [row] = await getDatabase().select({ n: count() }).from(job);
if (row?.n === 0 && file) {
  if (bracket) await createJob({ title: 'Gauge bracket GB-7', files: [bracket], recipe: shippedRecipe('Bent plates')! });
  await createJob({ title: 'Shoreline sampling winch SW-40', files: [file], demo: true });
}
await closeDatabase();
