import { api, compressed, jobId, json } from '$lib/api.server';
import { check, drawingRequest, loadDrawing, readDrawingBack, undoState } from '$server';

export const GET = api(async (event) => {
  const id = jobId(event);
  const [drawing, undo] = await Promise.all([loadDrawing(id), undoState(id)]);
  return compressed(event, { id, ...drawing, ...undo });
});

export const PUT = api(async (event) => {
  const { version, file, token } = check(drawingRequest, await json(event));
  return Response.json(await readDrawingBack(jobId(event), version, file, token));
});
