import type { ExplodeRequest, Interim } from '$core/explode/requests';
import { streamed } from '../shared/streamed';

/** Has something of the exploded view computed on the server. @throws ApiFailure */
export const compute = <T>(job: string, request: ExplodeRequest, signal?: AbortSignal, tell?: (message: Interim) => void): Promise<T> =>
  streamed<T, Interim>(`/api/jobs/${job}/explode`, request, signal, tell);
