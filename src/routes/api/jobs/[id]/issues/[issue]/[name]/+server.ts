import { branchOff, check, issueFile, takeIssueBack, verifyIssue, versionRequest } from '$server';
import { api, bytes, jobId, json } from '$lib/api.server';
import { QuarryError } from '$core/base/errors';

const TYPES: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  svg: 'image/svg+xml',
  png: 'image/png',
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  json: 'application/json',
  glb: 'model/gltf-binary',
  html: 'text/html; charset=utf-8',
  zip: 'application/zip',
};

/** A file of an issue, the same bytes whenever it is asked for; `verify` says whether its seal holds. */
export const GET = api(async (event) => {
  const { issue = '', name = '' } = event.params;
  if (name === 'verify') return Response.json(await verifyIssue(jobId(event), issue));
  const file = await issueFile(jobId(event), issue, name);
  const type = TYPES[name.split('.').at(-1)!] ?? 'application/octet-stream';
  return new Response(bytes(file.data), {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
      'cache-control': 'private, max-age=31536000, immutable',
    },
  });
});

/** `back`: the drawing becomes again what was issued; `branch`: a job of its own begins with it. */
export const POST = api(async (event) => {
  const { issue = '', name = '' } = event.params;
  if (name === 'branch') return Response.json({ id: await branchOff(jobId(event), issue) }, { status: 201 });
  if (name !== 'back') throw new QuarryError('NOT_FOUND', { what: `“${name}”` });
  const { version } = check(versionRequest, await json(event));
  return Response.json(await takeIssueBack(jobId(event), issue, version));
});
