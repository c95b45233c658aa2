interface Sides {
  near: Map<number, Set<number>>;
  far: Set<number>;
}

/**
 * Of nodes that are not gone through as a whole: the marks on either side that were, and which led
 * to which.
 */
export class PartedNodes {
  private readonly sides = new Map<number, Sides>();

  get size(): number {
    return this.sides.size;
  }

  /** Something goes through a node, from a mark on the near side to one on the far side. */
  add(node: number, mark: number, other: number): void {
    const sides = this.sides.get(node) ?? { near: new Map<number, Set<number>>(), far: new Set() };
    this.sides.set(node, sides);
    sides.near.set(mark, (sides.near.get(mark) ?? new Set<number>()).add(other));
    sides.far.add(other);
  }

  /** Whether a mark on one side was gone through; null where the node was as a whole. */
  has(node: number, mark: number, near: boolean): boolean | null {
    const sides = this.sides.get(node);
    if (!sides) return null;
    return near ? sides.near.has(mark) : sides.far.has(mark);
  }

  /** What a mark on the near side led to; undefined where that is all on the far side. */
  ledTo(node: number, mark: number): ReadonlySet<number> | undefined {
    return this.sides.get(node)?.near.get(mark);
  }

  clear(): void {
    this.sides.clear();
  }
}
