import { api, jobId } from '$lib/api.server';
import { loadDrawing, undoState } from '$server';

export const GET = api(async (event) => {
  const id = jobId(event);
  return Response.json({ id, ...(await loadDrawing(id)), ...(await undoState(id)) });
});
