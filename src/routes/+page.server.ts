import { config, listJobs } from '$server';

export const load = async () => ({ jobs: await listJobs(), limitMb: Math.round(config.maxUploadBytes / 1e6) });
