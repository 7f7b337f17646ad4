import { jobSummary, loadDrawing, undoState } from '$server';
import { QuarryError } from '$core/base/errors';
import { error, redirect } from '@sveltejs/kit';

export const load = async ({ params }) => {
  try {
    const summary = await jobSummary(params.id);
    if (summary.state !== 'ready') redirect(307, '/');
    return { drawing: { id: params.id, ...(await loadDrawing(params.id)), ...(await undoState(params.id)) } };
  } catch (e) {
    if (e instanceof QuarryError) error(404, { message: e.message, code: e.code });
    throw e;
  }
};
