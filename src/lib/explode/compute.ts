import type { ExplodeRequest, Interim } from '$core/explode/requests';
import { ApiFailure } from '../shared/api';

/**
 * Has something of the exploded view computed on the server.
 * @throws ApiFailure with the server's sentence, or OFFLINE; what was cancelled throws the signal's reason
 */
export async function compute<T>(job: string, request: ExplodeRequest, signal?: AbortSignal, tell?: (message: Interim) => void): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/jobs/${job}/explode`, {
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
      const m = JSON.parse(line) as Interim | { result: T } | { error: { code: string; message: string } };
      if ('progress' in m || 'partial' in m) tell?.(m);
      if ('error' in m) throw new ApiFailure(m.error.code, m.error.message);
      if ('result' in m) return m.result;
    }
    if (done) throw new ApiFailure('OFFLINE', 'The answer broke off. Try it again.');
  }
}
