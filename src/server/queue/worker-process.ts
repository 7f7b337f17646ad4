import { closeDatabase } from '../database/client.ts';
import { log, logWhatNobodyCaught } from '../log.ts';
import { startWork } from './runner.ts';

/** A worker of its own: any number of them, on any machine, with nothing but DATABASE_URL. */
logWhatNobodyCaught();
const work = await startWork();
log.info('working the queue');
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    void work
      .stop()
      .then(closeDatabase)
      .then(() => process.exit(0));
  });
