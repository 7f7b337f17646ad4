import pino from 'pino';

/** Structured log on standard error; standard output belongs to the programs. */
export const log = pino({ name: 'nimble-quarry', level: process.env.QUARRY_LOG ?? 'info' }, pino.destination(2));
