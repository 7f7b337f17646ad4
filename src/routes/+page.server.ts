import { check, config, jobQuery, listJobs } from '$server';

/** Jobs on a page of the list. */
const PAGE = 60;

export const load = async ({ url }) => {
  const page = Math.max(1, Number(url.searchParams.get('page')) || 1);
  const { q, sort } = check(jobQuery.pick({ q: true, sort: true }).catch({}), {
    q: url.searchParams.get('q') ?? undefined,
    sort: url.searchParams.get('sort') ?? undefined,
  });
  const { jobs, total } = await listJobs({ q, sort, offset: (page - 1) * PAGE, limit: PAGE });
  return {
    jobs,
    total,
    page,
    pages: Math.max(1, Math.ceil(total / PAGE)),
    q: q ?? '',
    sort: sort ?? 'changed',
    limitMb: Math.round(config.maxUploadBytes / 1e6),
  };
};
