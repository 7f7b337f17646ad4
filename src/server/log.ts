import pino from 'pino';

/** An error in one line: what it is, its code, where it arose. What else hangs on it, such as a database client, is nobody's to read. */
export function errorLine(e: unknown): Record<string, string> {
  if (!(e instanceof Error)) return { message: String(e) };
  const code = (e as { readonly code?: unknown }).code;
  const at = e.stack
    ?.split('\n')
    .find((l) => l.trim().startsWith('at '))
    ?.trim();
  return {
    type: e.name,
    ...(typeof code === 'string' || typeof code === 'number' ? { code: String(code) } : {}),
    message: e.message,
    ...(at ? { at } : {}),
    ...(e.cause instanceof Error ? { cause: e.cause.message } : {}),
  };
}

/** Structured log on standard error; standard output belongs to the programs. */
export const log = pino(
  { name: 'nimble-quarry', level: process.env.QUARRY_LOG ?? 'info', serializers: { err: errorLine, error: errorLine, reason: errorLine } },
  pino.destination(2),
);

/** What nobody caught is one line too. An exception ends the process, which is started again; a lost promise does not. */
export function logWhatNobodyCaught(): void {
  process.on('uncaughtException', (err) => {
    log.fatal({ err }, 'ended by an error that nobody caught');
    process.exit(1);
  });
  process.on('unhandledRejection', (err) => log.error({ err }, 'a promise was lost'));
}
