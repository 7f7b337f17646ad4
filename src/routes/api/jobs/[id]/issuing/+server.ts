import { check, issueRequest, issuingOf, queueIssue, stopIssuing } from '$server';
import { addressOf, api, jobId, json } from '$lib/api.server';

export const GET = api(async (event) => Response.json((await issuingOf(jobId(event))) ?? null));

export const POST = api(async (event) =>
  Response.json(await queueIssue(jobId(event), check(issueRequest, await json(event)), addressOf(event)), { status: 201 }),
);

export const DELETE = api(async (event) => {
  await stopIssuing(jobId(event));
  return new Response(null, { status: 204 });
});
