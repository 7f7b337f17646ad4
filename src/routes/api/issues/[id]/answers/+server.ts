import { answerRequest, check, keepAnswer } from '$server';
import { api, jobId, json } from '$lib/api.server';

/** A tick, a check or a remark from the bench: the drawing is not touched. */
export const POST = api(async (event) => {
  const { photo, check: point, when, ...answer } = check(answerRequest, await json(event));
  const jpeg = photo ? new Uint8Array(Buffer.from(photo.slice(photo.indexOf(',') + 1), 'base64')) : undefined;
  await keepAnswer(jobId(event), { ...answer, point, photo: jpeg, when: new Date(when) });
  return Response.json({});
});
