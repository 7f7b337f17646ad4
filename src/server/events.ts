import { EventEmitter } from 'node:events';
import { Client } from 'pg';
import { config } from './config.ts';
import { getPool } from './database/client.ts';
import { log } from './log.ts';

/** What open pages are told. Travels through the database, so that it reaches every process. */
export type LiveEvent =
  | { readonly type: 'job'; readonly job: string }
  /** Something happened to a newer model of the job. */
  | { readonly type: 'model'; readonly job: string }
  /** Something came from the bench, or was answered. */
  | { readonly type: 'bench'; readonly job: string }
  /** The making of an issue began, went on or ended. */
  | { readonly type: 'issuing'; readonly job: string }
  | { readonly type: 'document'; readonly job: string; readonly version: number }
  | { readonly type: 'view'; readonly job: string; readonly view: string }
  | { readonly type: 'progress'; readonly job: string; readonly view: string; readonly share: number }
  /** A view that cannot be computed, and why. */
  | { readonly type: 'trouble'; readonly job: string; readonly view: string; readonly text: string };

const CHANNEL = 'quarry';
const emitter = new EventEmitter().setMaxListeners(0);
let client: Client | undefined;

export async function tell(event: LiveEvent): Promise<void> {
  await getPool().query('select pg_notify($1, $2)', [CHANNEL, JSON.stringify(event)]);
}

async function listen(): Promise<void> {
  if (client) return;
  client = new Client({ connectionString: config.databaseUrl });
  const own = client;
  own.on('error', (err) => {
    log.warn({ err }, 'live updates lost the database; trying again');
    if (client === own) client = undefined;
    setTimeout(() => void listen().catch(() => undefined), 2000).unref();
  });
  own.on('notification', (n) => {
    if (n.payload) emitter.emit('event', JSON.parse(n.payload) as LiveEvent);
  });
  try {
    await own.connect();
    await own.query(`listen ${CHANNEL}`);
  } catch (e) {
    // The next subscriber tries again.
    if (client === own) client = undefined;
    await own.end().catch(() => undefined);
    throw e;
  }
}

/** @returns a function that ends the subscription */
export function subscribe(jobId: string | undefined, hear: (event: LiveEvent) => void): () => void {
  const handler = (e: LiveEvent) => {
    if (!jobId || e.job === jobId) hear(e);
  };
  emitter.on('event', handler);
  void listen().catch((err: unknown) => log.warn({ err }, 'live updates are not available'));
  return () => emitter.off('event', handler);
}

export async function stopListening(): Promise<void> {
  const c = client;
  client = undefined;
  await c?.end();
}
