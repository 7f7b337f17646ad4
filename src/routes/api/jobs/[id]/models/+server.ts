import { api, jobId } from '$lib/api.server';
import { readUpload } from '$lib/upload.server';
import { check, demoRevision, hasNewerModel, jobSummary, modelOffer, offerModel, takenChanges, unitQuestion, uploadOptions } from '$server';

/** The newer model that waits, whether the demo's is at hand, and what the model shown now has changed. */
export const GET = api(async (event) => {
  const id = jobId(event);
  const { demo } = await jobSummary(id);
  return Response.json({
    offer: (await modelOffer(id)) ?? null,
    demo: demo && !(await hasNewerModel(id)) && demoRevision() !== undefined,
    taken: (await takenChanges(id)) ?? null,
  });
});

export const POST = api(async (event) => {
  const id = jobId(event);
  if (event.url.searchParams.has('demo')) {
    const file = demoRevision();
    if (file) return Response.json({ id: await offerModel(id, file.name, [file]) }, { status: 201 });
  }
  const { files, field } = await readUpload(event.request);
  const { unitMm, up } = check(uploadOptions, { unitMm: field('unitMm'), up: field('up') });
  const question = unitMm === undefined ? await unitQuestion(files) : undefined;
  if (question) return Response.json({ question });
  return Response.json({ id: await offerModel(id, files[0]!.name, files, unitMm === undefined ? undefined : { unitMm, up }) }, { status: 201 });
});
