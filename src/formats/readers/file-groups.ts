import type { ImportedFile } from '../../core/assembly/importing.ts';

export const isStep = (name: string) => /\.(stp|step|p21)$/i.test(name);
export const isMeshFile = (name: string) => /\.(stl|obj|gltf|glb|3mf)$/i.test(name);
/** Formats that say nothing of their unit and of which axis is up. */
export const lacksUnit = (name: string) => /\.(stl|obj)$/i.test(name);

/** Files that are read together: the first is the top, the others are what it may refer to. */
export interface FileGroup {
  readonly top: ImportedFile;
  readonly beside: readonly ImportedFile[];
}

/**
 * Which of the files are assemblies of their own. A STEP file that no other one names is a top, and so is every mesh
 * file; where all STEP files name each other the first is taken.
 */
export function fileGroups(files: readonly ImportedFile[]): FileGroup[] {
  const steps = files.filter((f) => isStep(f.name));
  const meshes = files.filter((f) => isMeshFile(f.name));
  const rest = files.filter((f) => !isStep(f.name) && !isMeshFile(f.name));
  return [...stepGroups(steps), ...meshes.map((top) => ({ top, beside: rest }))];
}

function stepGroups(steps: readonly ImportedFile[]): FileGroup[] {
  if (steps.length === 0) return [];
  if (steps.length === 1) return [{ top: steps[0]!, beside: [] }];
  const texts = steps.map((f) => new TextDecoder('latin1').decode(f.bytes).toLowerCase());
  const names = steps.map((f) => f.name.toLowerCase());
  // A reference stands in quotes, alone or after a folder.
  const refers = (i: number, j: number) =>
    i !== j && (texts[i]!.includes(`'${names[j]!}'`) || texts[i]!.includes(`/${names[j]!}'`) || texts[i]!.includes(`\\${names[j]!}'`));
  const below = (i: number): number[] => {
    const seen = new Set([i]);
    const stack = [i];
    while (stack.length) {
      const at = stack.pop()!;
      for (let j = 0; j < steps.length; j++)
        if (!seen.has(j) && refers(at, j)) {
          seen.add(j);
          stack.push(j);
        }
    }
    seen.delete(i);
    return [...seen];
  };
  const tops = steps.flatMap((_, j) => (steps.some((_, i) => refers(i, j)) ? [] : [j]));
  return (tops.length ? tops : [0]).map((i) => ({
    top: steps[i]!,
    beside: (tops.length ? below(i) : steps.map((_, j) => j).filter((j) => j !== i)).map((j) => steps[j]!),
  }));
}
