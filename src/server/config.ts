import { availableParallelism } from 'node:os';
import { join } from 'node:path';

/** Settings from the environment, read once. */
export const config = {
  databaseUrl: process.env.DATABASE_URL ?? '',
  /** Project folder: fonts, migrations and bundled threads are found from here. */
  root: process.env.QUARRY_ROOT ?? process.cwd(),
  maxUploadBytes: Number(process.env.QUARRY_MAX_UPLOAD_MB ?? 200) * 1_000_000,
  importTimeoutMs: Number(process.env.QUARRY_IMPORT_TIMEOUT_S ?? 300) * 1000,
  /** Views computed side by side in this process. */
  geometryThreads: Number(process.env.QUARRY_GEOMETRY_THREADS ?? availableParallelism()),
  /** Heap of one geometry thread, MB; beyond it the thread is ended and its task fails. Typed arrays come on top. */
  geometryThreadMb: Number(process.env.QUARRY_GEOMETRY_THREAD_MB ?? 2000),
  /** Where others reach this server, such as `http://drawings.works:5000`; absent: as who asks reaches it. */
  address: process.env.QUARRY_ADDRESS,
  /** `no`: this process serves pages only and leaves the queue to worker processes. */
  works: process.env.QUARRY_WORKS !== 'no',
} as const;

export const threadFile = (name: string) => join(config.root, 'build', 'node', `${name}.js`);
/** The 3D of pages that stand alone, JavaScript for a browser. */
export const viewerFile = () => threadFile('viewer');
/** The letters of pages that stand alone, by weight. */
export const pageLetterFiles = () =>
  ([400, 600] as const).map((weight) => ({
    weight,
    file: join(config.root, 'node_modules', '@fontsource', 'source-sans-3', 'files', `source-sans-3-latin-${weight}-normal.woff2`),
  }));
export const fontFile = () => join(config.root, 'static', 'fonts', 'osifont.ttf');
