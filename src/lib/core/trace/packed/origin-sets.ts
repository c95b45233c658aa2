import { Column } from './column.ts';

/**
 * Sets of small whole numbers, each kept once and named by its place in a pool; place 0 is the
 * empty set.
 */
export class OriginSets {
  private readonly places = new Map<string, number>();
  private readonly unions = new Map<number, number>();
  readonly pool: Column;

  /** @param known a pool written before, whose sets keep their places */
  constructor(known?: Uint32Array) {
    this.pool = new Column(Math.max(64, (known?.length ?? 0) * 2));
    if (!known || known.length === 0) {
      this.pool.push(0);
      return;
    }
    for (let at = 0; at < known.length; at += 1 + known[at]!)
      this.places.set(known.subarray(at + 1, at + 1 + known[at]!).join(' '), at);
    for (const value of known) this.pool.push(value);
  }

  members(place: number): Uint32Array {
    return this.pool.data.subarray(place + 1, place + 1 + this.pool.data[place]!);
  }

  of(members: readonly number[]): number {
    const sorted = [...new Set(members)].sort((a, b) => a - b);
    if (sorted.length === 0) return 0;
    const key = sorted.join(' ');
    let place = this.places.get(key);
    if (place === undefined) {
      place = this.pool.length;
      this.pool.push(sorted.length);
      for (const member of sorted) this.pool.push(member);
      this.places.set(key, place);
    }
    return place;
  }

  union(a: number, b: number): number {
    if (a === b || b === 0) return a;
    if (a === 0) return b;
    const key = a < b ? a * 0x1_0000_0000 + b : b * 0x1_0000_0000 + a;
    let place = this.unions.get(key);
    if (place === undefined)
      this.unions.set(key, (place = this.of([...this.members(a), ...this.members(b)])));
    return place;
  }
}
