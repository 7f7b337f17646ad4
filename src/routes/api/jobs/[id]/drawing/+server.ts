import { api, compressed, jobId, json } from '$lib/api.server';
import { check, drawingRequest, jobState, loadDrawing, readDrawingBack, undoState } from '$server';

export const GET = api(async (event) => {
  const id = jobId(event);
  const [state, drawing, undo] = await Promise.all([jobState(id), loadDrawing(id), undoState(id)]);
  return compressed(event, { id, state, ...drawing, ...undo });
});

export const PUT = api(async (event) => {
  const { version, file, token } = check(drawingRequest, await json(event));
  return Response.json(await readDrawingBack(jobId(event), version, file, token));
});
