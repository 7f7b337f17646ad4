/** The values that were used last, by key; older ones are let go. */
export class Recent<V> {
  private readonly values = new Map<string, V>();
  private readonly most: number;

  constructor(most: number) {
    this.most = most;
  }

  get(key: string): V | undefined {
    const value = this.values.get(key);
    if (value !== undefined) this.set(key, value);
    return value;
  }

  set(key: string, value: V): void {
    this.values.delete(key);
    this.values.set(key, value);
    if (this.values.size > this.most) this.values.delete(this.values.keys().next().value!);
  }
}
