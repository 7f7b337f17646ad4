import { check, issueRequest, issuesOf, makeIssue } from '$server';
import { addressOf, api, jobId, json, streamed } from '$lib/api.server';

export const GET = api(async (event) => Response.json(await issuesOf(jobId(event))));

/** Issues the drawing: `{progress}` while files are made, then the issue. */
export const POST = api(async (event) => {
  const id = jobId(event);
  const request = check(issueRequest, await json(event));
  return streamed(event, (signal, say) => makeIssue(id, request, addressOf(event), signal, (progress) => say({ progress })));
});
