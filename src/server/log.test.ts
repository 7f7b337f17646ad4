import { expect, test } from 'vitest';
import { errorLine } from './log.ts';

test('an error is one line: type, code, message, place; what hangs on it is left out', () => {
  const e = Object.assign(new Error('Connection terminated unexpectedly'), { code: '57P01', client: { connection: { stream: {} } }, length: 100 });
  const line = errorLine(e);
  expect(line).toMatchObject({ type: 'Error', code: '57P01', message: 'Connection terminated unexpectedly' });
  expect(Object.keys(line).sort()).toEqual(['at', 'code', 'message', 'type']);
  expect(JSON.stringify(line)).not.toContain('\\n');
  expect(errorLine('gone')).toEqual({ message: 'gone' });
  expect(errorLine(new Error('outer', { cause: new Error('inner') }))).toMatchObject({ cause: 'inner' });
});
