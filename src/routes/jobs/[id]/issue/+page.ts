import { openJob } from '$lib/shared/open-job';

/** The stages work in the browser: drawing them on the server first would only be done twice. */
export const ssr = false;
export const load = ({ fetch, params }) => openJob(fetch, params.id);
