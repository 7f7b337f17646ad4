import { answerRemark, check, remarkAnswer, remarkPhoto } from '$server';
import { api, bytes, jobId, json } from '$lib/api.server';

/** The photo of a remark. */
export const GET = api(
  async (event) =>
    new Response(bytes(await remarkPhoto(jobId(event), event.params.remark ?? '')), {
      headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=86400' },
    }),
);

export const POST = api(async (event) => {
  const { answer } = check(remarkAnswer, await json(event));
  await answerRemark(jobId(event), event.params.remark ?? '', answer);
  return Response.json({});
});
