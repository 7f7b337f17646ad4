import { api, jobId, json } from '$lib/api.server';
import { check, setUnit, unitRequest } from '$server';

/** What the unit of the files means; see `setUnit`. */
export const PUT = api(async (event) => {
  const { version, unit } = check(unitRequest, await json(event));
  return Response.json(await setUnit(jobId(event), version, unit));
});
