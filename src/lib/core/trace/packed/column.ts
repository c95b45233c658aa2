/**
 * A column of whole numbers that grows: half-filled typed arrays take a tenth of the room and time
 * of plain ones.
 */
export class Column {
  /** What is kept; only the first `length` of it count. */
  data: Uint32Array;
  length = 0;

  constructor(capacity = 1024) {
    this.data = new Uint32Array(capacity);
  }

  push(value: number): void {
    if (this.length === this.data.length) this.grow(this.length + 1);
    this.data[this.length++] = value;
  }

  /** Writes at a place, which may lie beyond the end; what is between is zero. */
  put(at: number, value: number): void {
    if (at >= this.data.length) this.grow(at + 1);
    if (at >= this.length) this.length = at + 1;
    this.data[at] = value;
  }

  /** Holds what another holds, and nothing else. */
  take(other: Column): void {
    if (other.length > this.data.length) this.grow(other.length);
    this.data.set(other.data.subarray(0, other.length));
    this.length = other.length;
  }

  clear(): void {
    this.length = 0;
  }

  private grow(least: number): void {
    const larger = new Uint32Array(Math.max(least, this.data.length * 2));
    larger.set(this.data);
    this.data = larger;
  }
}
