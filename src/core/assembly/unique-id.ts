/** An id that is not taken yet, from a name of at most 80 characters: `Plate`, `Plate~2`, … It is taken from now on. */
export function uniqueId(name: string, taken: Set<string>): string {
  const base = name.slice(0, 80) || 'Part';
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}~${n}`;
  taken.add(id);
  return id;
}
