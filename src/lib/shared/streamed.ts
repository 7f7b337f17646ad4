import { ApiFailure } from './api';

/**
 * Has long work done on the server, which tells how far it is.
 * @param tell is given every message that is no answer
 * @throws ApiFailure with the server's sentence, or OFFLINE; what was cancelled throws the signal's reason
 */
export async function streamed<T, M = { readonly progress: number }>(
  path: string,
  request: unknown,
  signal?: AbortSignal,
  tell?: (message: M) => void,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: 'POST',
      body: JSON.stringify(request),
      headers: { 'content-type': 'application/json' },
      ...(signal ? { signal } : {}),
    });
  } catch (e) {
    if (signal?.aborted) throw e;
    throw new ApiFailure('OFFLINE', 'The server does not answer. Try it again.');
  }
  let rest = '';
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  for (;;) {
    const { done, value } = await reader.read();
    rest += value ?? '';
    const lines = rest.split('\n');
    rest = done ? '' : lines.pop()!;
    for (const line of lines) {
      if (line === '') continue;
      const m = JSON.parse(line) as { result: T } | { error: { code: string; message: string } } | M;
      if (typeof m === 'object' && m !== null && 'error' in m) throw new ApiFailure(m.error.code, m.error.message);
      if (typeof m === 'object' && m !== null && 'result' in m) return m.result;
      tell?.(m);
    }
    if (done) throw new ApiFailure('OFFLINE', 'The answer broke off. Try it again.');
  }
}
