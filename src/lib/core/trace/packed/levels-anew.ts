import { Column } from './column.ts';

/**
 * Levels over what a walk reached, where it came to some of it later than its distance: breadth first
 * once more, over what was gone through.
 * @param marks in the order of the walk, roots first
 * @param roots how many of them are roots
 * @param placeOf place of a mark in `marks` + 1; 0 where it was not reached
 * @param lead gives the marks that one leads to
 * @returns the old places in their new order, and where in it each level begins
 */
export function levelsAnew(
  marks: Uint32Array,
  roots: number,
  placeOf: Uint32Array,
  lead: (mark: number, isRoot: boolean, to: (other: number) => void) => void
): { places: Uint32Array; levelStarts: number[] } {
  const order = new Column(marks.length),
    done = new Uint8Array(marks.length);
  const visit = (mark: number): void => {
    const place = placeOf[mark]! - 1;
    if (place < 0 || done[place] === 1) return;
    done[place] = 1;
    order.push(place);
  };
  for (let place = 0; place < roots; place++) visit(marks[place]!);
  const levelStarts = [0];
  for (let from = 0; from < order.length;) {
    const to = order.length;
    levelStarts.push(to);
    for (let at = from; at < to; at++) lead(marks[order.data[at]!]!, from === 0, visit);
    from = to;
  }
  return { places: order.data.slice(0, order.length), levelStarts };
}
