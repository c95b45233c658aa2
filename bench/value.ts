import { carryCosts } from '../src/lib/server/stock/costs/carry-costs.ts';
import { readValueBy } from '../src/lib/server/stock/costs/read-value.ts';
import { today } from '../src/lib/server/kernel/clock.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';
import { bareBirths, product } from './store.ts';

const MARKS = 1_000_000,
  AT_ONCE = 50_000,
  TURNS = 3;

/**
 * What a million marks are worth at the end of a day, by product, against one read of their
 * movements until then. Their costs are carried before: that is done once, and not measured.
 */
export async function valueOfMany(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  const id = await product(bench, 'VB-UNIT');
  for (let from = 0; from < MARKS; from += AT_ONCE) {
    const serials = Array.from({ length: AT_ONCE }, (_, n) => `VB-${from + n}`);
    await bareBirths(bench, id, world.place, serials);
  }
  await carryCosts(app);
  await owner`ANALYZE movement, mark, mark_cost, event, stock`;
  const day = today();
  return compare(
    'value-1m',
    MARKS,
    () => readValueBy(app, 'product', { day, product: 'VB-UNIT' }),
    () => app`
      SELECT sum(quantity)
      FROM (
        SELECT v.mark_id, v.place_id, sum(v.quantity) AS quantity
        FROM movement v
          JOIN event e ON e.id = v.event_id
        WHERE e.happened_at < ${day}::date + 1
        GROUP BY v.mark_id, v.place_id
      ) s
    `,
    TURNS
  );
}
