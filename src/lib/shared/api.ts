export class ApiFailure extends Error {
  readonly code: string;
  constructor(code: string, message: string) {
    super(message);
    this.code = code;
  }
}

/** Calls our own server. @throws ApiFailure with the server's code and sentence, or OFFLINE */
export async function call<T>(path: string, options: { method?: string; body?: unknown } = {}): Promise<T> {
  const body = options.body === undefined ? undefined : JSON.stringify(options.body);
  let response: Response;
  try {
    response = await fetch(path, {
      method: options.method ?? 'GET',
      ...(body === undefined ? {} : { body, headers: { 'content-type': 'application/json' } }),
      // A change on its way survives the closing of the page; browsers allow 64 kB for that.
      keepalive: body !== undefined && body.length < 20_000,
    });
  } catch {
    throw new ApiFailure('OFFLINE', 'The server does not answer. Your changes wait on this page until it does.');
  }
  if (response.status === 204) return undefined as T;
  const data: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    const error = (data as { error?: { code: string; message: string } } | undefined)?.error;
    throw new ApiFailure(error?.code ?? 'INTERNAL', error?.message ?? 'The server gave no understandable answer.');
  }
  return data as T;
}
