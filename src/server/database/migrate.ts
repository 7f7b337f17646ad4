import { join } from 'node:path';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { runMigrations } from 'graphile-worker';
import { config } from '../config.ts';
import { carryDrawingsOver } from '../services/documents.ts';
import { closeDatabase, getDatabase, getPool } from './client.ts';

/** Brings the database to the present schema, the queue's own included. */
export async function migrateAll(): Promise<void> {
  await migrate(getDatabase(), { migrationsFolder: join(config.root, 'src/server/database/migrations') });
  await runMigrations({ pgPool: getPool() });
  await carryDrawingsOver();
}

if (process.argv[1]?.endsWith('migrate.js')) {
  await migrateAll();
  await closeDatabase();
}
