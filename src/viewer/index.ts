import type { ViewerModel } from '../core/guide/viewer-model.ts';
import { unpacked, Viewer } from './viewer.ts';

/** The door for scripts of self-contained pages: unpacks the model that stands in the page, and shows it in an element. */
const start = async (host: HTMLElement, model: ViewerModel, packed: string): Promise<Viewer> => new Viewer(host, model, await unpacked(packed));

Object.assign(globalThis, { quarryViewer: { start } });
