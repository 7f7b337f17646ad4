import { loadJob } from '$lib/job-page.server';

export const load = ({ params }) => loadJob(params.id);
