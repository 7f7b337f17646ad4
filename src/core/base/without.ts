/** A copy that leaves a setting to its default. */
export function without<T extends object, K extends keyof T>(record: T, key: K): Omit<T, K> {
  const copy: Partial<T> = { ...record };
  delete copy[key];
  return copy as Omit<T, K>;
}
