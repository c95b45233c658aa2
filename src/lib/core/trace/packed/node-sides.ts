/**
 * Puts the marks of one side of a node in a settled order, the same quantities together, so that
 * nodes that are alike have one shape.
 * Sorts both in place between `from` and `to`.
 */
export function settleOrder(
  marks: Uint32Array,
  codes: Uint32Array,
  from: number,
  to: number
): void {
  if (to - from > 24) {
    settleMany(marks, codes, from, to);
    return;
  }
  for (let i = from + 1; i < to; i++) {
    const mark = marks[i]!,
      code = codes[i]!;
    let j = i - 1;
    while (j >= from && (codes[j]! > code || (codes[j] === code && marks[j]! > mark))) {
      marks[j + 1] = marks[j]!;
      codes[j + 1] = codes[j]!;
      j--;
    }
    marks[j + 1] = mark;
    codes[j + 1] = code;
  }
}

function settleMany(marks: Uint32Array, codes: Uint32Array, from: number, to: number): void {
  const order = Array.from({ length: to - from }, (_, n) => from + n).sort(
    (a, b) => codes[a]! - codes[b]! || marks[a]! - marks[b]!
  );
  const sortedMarks = order.map((at) => marks[at]!),
    sortedCodes = order.map((at) => codes[at]!);
  marks.set(sortedMarks, from);
  codes.set(sortedCodes, from);
}
