import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { config } from '../config.ts';
import { log } from '../log.ts';
import * as schema from './schema.ts';

export type Database = NodePgDatabase<typeof schema>;

let pool: Pool | undefined;
let database: Database | undefined;

export function getPool(): Pool {
  if (!pool) {
    if (!config.databaseUrl) throw new Error('DATABASE_URL is not set. Start with “npm start”, or give the address of a PostgreSQL database.');
    pool = new Pool({ connectionString: config.databaseUrl, max: 12 });
    pool.on('error', (e) => log.error({ err: e }, 'idle database connection lost'));
    pool.on('connect', (client) => client.on('error', (e) => log.warn({ err: e }, 'database connection lost')));
  }
  return pool;
}

export function getDatabase(): Database {
  database ??= drizzle(getPool(), { schema, casing: 'snake_case' });
  return database;
}

export async function closeDatabase(): Promise<void> {
  await pool?.end();
  pool = undefined;
  database = undefined;
}
