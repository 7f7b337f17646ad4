import { jobSummary, loadDrawing, undoState } from '$server';
import { QuarryError } from '$core/base/errors';
import { error, redirect } from '@sveltejs/kit';

/** What the stages of a job are opened with; a job that has no drawing yet leads back to the list. */
export async function loadJob(id: string) {
  try {
    const summary = await jobSummary(id);
    if (summary.state !== 'ready') redirect(307, '/');
    return { drawing: { id, ...(await loadDrawing(id)), ...(await undoState(id)) } };
  } catch (e) {
    if (e instanceof QuarryError) error(404, { message: e.message, code: e.code });
    throw e;
  }
}
