/** A row of a pick list, as far as its order goes. */
export interface PickStop {
  place: string | null;
  product: string;
  number: string | null;
}

const parts = (text: string): (string | number)[] =>
  [...text.toUpperCase().matchAll(/\d+|\D+/g)].map(([part]) =>
    /^\d/.test(part) ? Number(part) : part
  );

/** Places as somebody walks them: rack by rack, `B2` before `B10`. */
export function walkingOrder(a: string, b: string): number {
  const left = parts(a),
    right = parts(b);
  for (let at = 0; at < Math.max(left.length, right.length); at++) {
    const x = left[at],
      y = right[at];
    if (x === y) continue;
    if (x === undefined) return -1;
    if (y === undefined) return 1;
    if (typeof x === 'number' && typeof y === 'number') return x - y;
    return String(x) < String(y) ? -1 : 1;
  }
  return 0;
}

/** The stops of a pick list in walking order; what has no place yet comes last. */
export function inWalkingOrder<T extends PickStop>(stops: readonly T[]): T[] {
  return [...stops].sort(
    (a, b) =>
      Number(a.place === null) - Number(b.place === null) ||
      walkingOrder(a.place ?? '', b.place ?? '') ||
      walkingOrder(a.product, b.product) ||
      walkingOrder(a.number ?? '', b.number ?? '')
  );
}
