// The door of this room: what pages and routes may use.
export { config } from './config.ts';
export { log } from './log.ts';
export { getPool, closeDatabase } from './database/client.ts';
export { subscribe, stopListening, tell, type LiveEvent } from './events.ts';
export { errorResponse } from './http.ts';
export * from './services/demo-files.ts';
export * from './services/edits.ts';
export * from './services/exports.ts';
export * from './services/jobs.ts';
export * from './services/models.ts';
export * from './services/pictures.ts';
export * from './services/properties.ts';
export * from './services/unit-question.ts';
export * from './services/uploads.ts';
export * from './services/view-requests.ts';
export * from './services/views.ts';
export * from './validation.ts';
export { startWork, type WorkHandle } from './queue/runner.ts';
