import type { Direction } from '../graph.ts';
import type { Walker } from './packed-walk.ts';
import type { PackedCut, Reached } from './reached.ts';

/**
 * The marks that a lot-level view reaches and the clocks cleared, by their ids.
 * @param wide another walker over the same ledger, for what was reached must stay as it is
 */
export function clearedMarks(
  wide: () => Walker,
  reached: Reached,
  roots: readonly number[],
  direction: Direction,
  cut: PackedCut
): Uint32Array {
  if (!reached.cleared) return new Uint32Array(0);
  const { marks } = wide().walk(roots, direction, { ...cut, clocks: 'ignore' });
  return marks.data
    .slice(0, marks.length)
    .filter((mark) => reached.placeOf[mark] === 0)
    .sort();
}
