/** A Float64Array that grows; for results whose length is not known before. */
export class Floats {
  array: Float64Array;
  length = 0;
  constructor(capacity = 1024) {
    this.array = new Float64Array(capacity);
  }
  push(v: number): void {
    if (this.length === this.array.length) {
      const bigger = new Float64Array(this.array.length * 2);
      bigger.set(this.array);
      this.array = bigger;
    }
    this.array[this.length++] = v;
  }
  push3(a: number, b: number, c: number): void {
    this.push(a);
    this.push(b);
    this.push(c);
  }
  trimmed(): Float64Array {
    return this.array.slice(0, this.length);
  }
}

/** An Int32Array that grows. */
export class Ints {
  array: Int32Array;
  length = 0;
  constructor(capacity = 1024) {
    this.array = new Int32Array(capacity);
  }
  push(v: number): void {
    if (this.length === this.array.length) {
      const bigger = new Int32Array(this.array.length * 2);
      bigger.set(this.array);
      this.array = bigger;
    }
    this.array[this.length++] = v;
  }
  trimmed(): Int32Array {
    return this.array.slice(0, this.length);
  }
}
