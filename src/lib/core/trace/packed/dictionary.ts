import type { Micro } from './amounts.ts';

/** Values written once and named by a code from then on. Code 0 is nothing. */
export class Dictionary {
  private readonly codes = new Map<number | bigint, number>();
  readonly values: bigint[] = [0n];

  constructor() {
    this.codes.set(0, 0);
  }

  /** The code of a value, a new one where it has none. */
  code(value: Micro): number {
    return this.codeOf(
      value >= -9_007_199_254_740_991n && value <= 9_007_199_254_740_991n ? Number(value) : value
    );
  }

  /** The same for a value that came as a plain whole number. */
  codeOf(value: number | bigint): number {
    let code = this.codes.get(value);
    if (code === undefined) {
      code = this.values.length;
      this.codes.set(value, code);
      this.values.push(BigInt(value));
    }
    return code;
  }
}

/**
 * Lists of whole numbers written once in a pool; the last one asked for is looked at first, for the
 * next is mostly the same.
 */
export class ListPool {
  private readonly at = new Map<string, number>();
  private lastAt = -1;
  private lastLength = 0;

  constructor(
    private readonly pool: { data: Uint32Array; length: number; push(value: number): void }
  ) {}

  /** Where the list stands in the pool; written there where it did not. */
  place(list: Uint32Array, length: number): number {
    if (this.lastAt >= 0 && this.lastLength === length) {
      let same = true;
      for (let i = 0; i < length && same; i++) same = this.pool.data[this.lastAt + i] === list[i];
      if (same) return this.lastAt;
    }
    const key = list.subarray(0, length).join(' ');
    let at = this.at.get(key);
    if (at === undefined) {
      at = this.pool.length;
      for (let i = 0; i < length; i++) this.pool.push(list[i]!);
      this.at.set(key, at);
    }
    this.lastAt = at;
    this.lastLength = length;
    return at;
  }
}
