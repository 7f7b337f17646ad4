import type { Model } from './model.ts';
import { readFile } from 'node:fs/promises';
import { unpackGeometry } from '../core/assembly/geometry-codec.ts';
import type { ImportedFile } from '../core/assembly/importing.ts';
import { rescaleModel } from '../core/assembly/rescale.ts';
import { mmPerUnit, unlikelySize } from '../core/assembly/units.ts';
import { QuarryError } from '../core/base/errors.ts';
import { isMeshFile, isStep } from '../formats/readers/file-groups.ts';
import { keyedGeometry } from '../kernel/geometry-key.ts';
import { readingLimitMs, unitOptions, type Arguments } from './arguments.ts';
import { reader } from './kernel.ts';
import { loadMeshes } from './load-meshes.ts';
import { USAGE } from './usage.ts';
import { reading } from './reading.ts';

/**
 * Reads files as one assembly, the first one on top.
 * @throws QuarryError BAD_USAGE, NOT_FOUND and those of the files
 */
export function loadModel(names: readonly string[], args: Arguments): Promise<Model> {
  if (names.length === 0) throw new QuarryError('BAD_USAGE', { text: USAGE });
  return reading(async () => {
    const files = await Promise.all(names.map(readOne));
    const { unitMm } = unitOptions(args);
    const meshes = files.some((f) => isMeshFile(f.name)) && !files.some((f) => isStep(f.name));
    const model = meshes ? await loadMeshes(files, args) : inUnit(await loadStep(files), unitMm);
    const unlikely = unlikelySize(model.assembly);
    if (!unlikely) return model;
    process.stderr.write(`${unlikely.text} --unit says otherwise.\n`);
    return { ...model, assembly: { ...model.assembly, notices: [...model.assembly.notices, unlikely] } };
  });
}

async function readOne(name: string): Promise<ImportedFile> {
  try {
    return { name, bytes: new Uint8Array(await readFile(name)) };
  } catch (cause) {
    throw new QuarryError('NOT_FOUND', { what: name }, { cause });
  }
}

async function loadStep(files: readonly ImportedFile[]): Promise<Model> {
  const read = await reader().import(files, {
    // The supervisor's limit comes first; this one is for the kernel's own thread.
    timeoutMs: readingLimitMs(process.argv.slice(2)) + 5000,
    onProgress: (stage, done, total) => process.stderr.write(`${stage} ${total > 1 ? `${done + 1}/${total}` : ''}\n`),
  });
  return { assembly: read.assembly, geometries: new Map(read.geometries.map(([k, b]) => [k, unpackGeometry(b)!])), read };
}

/** A model whose file states another unit than it means. */
function inUnit(model: Model, unitMm: number | undefined): Model {
  const stated = mmPerUnit(model.assembly.unit);
  if (unitMm === undefined || stated === undefined || unitMm === stated) return model;
  return { ...model, ...rescaleModel(model.assembly, model.geometries, unitMm, (g) => keyedGeometry(g).key) };
}
