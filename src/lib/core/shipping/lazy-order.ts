/**
 * Things in order, put there only as far as anybody looks: of two thousand lots an order draws on
 * three, and sorting the rest would be for nothing. A binary heap; time grows with the things, and
 * with those looked at times the logarithm of all.
 */
export class LazyOrder<T> {
  private readonly heap: T[];
  private readonly sorted: T[] = [];

  /**
   * @param compare negative where the first comes before; only equals where two are the same, or
   * their order is left open
   */
  constructor(
    things: readonly T[],
    private readonly compare: (a: T, b: T) => number
  ) {
    this.heap = [...things];
    for (let at = (this.heap.length >> 1) - 1; at >= 0; at--) this.sink(at);
  }

  get length(): number {
    return this.sorted.length + this.heap.length;
  }

  /** The one at a place in the order. */
  at(place: number): T | undefined {
    while (this.sorted.length <= place && this.heap.length > 0) {
      this.sorted.push(this.heap[0]!);
      const last = this.heap.pop()!;
      if (this.heap.length > 0) {
        this.heap[0] = last;
        this.sink(0);
      }
    }
    return this.sorted[place];
  }

  /** All of them in order. */
  all(): readonly T[] {
    if (this.heap.length > 0) {
      this.sorted.push(...this.heap.sort(this.compare));
      this.heap.length = 0;
    }
    return this.sorted;
  }

  private sink(from: number): void {
    const { heap, compare } = this,
      thing = heap[from]!,
      half = heap.length >> 1;
    let at = from;
    while (at < half) {
      let child = 2 * at + 1;
      if (child + 1 < heap.length && compare(heap[child + 1]!, heap[child]!) < 0) child++;
      if (compare(thing, heap[child]!) <= 0) break;
      heap[at] = heap[child]!;
      at = child;
    }
    heap[at] = thing;
  }
}
