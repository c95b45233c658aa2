import type { World } from './world.ts';

interface Pooled {
  product: string;
  lot?: string;
  serial?: string;
}

/**
 * Books random builds over a pool of lots: fourteen received, then outputs that are serials, new
 * lots or old ones again, so that loops come about. A small generator of its own, so that the
 * ledger is the same every time.
 * @returns what books more of the same
 */
export async function randomBookings(
  world: World,
  builds: number
): Promise<(more: number) => Promise<void>> {
  let seed = 20_261_123,
    count = 0;
  const next = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
  const lots = Array.from({ length: 14 }, (_, i) => `RL-${i}`);
  await world.receive(
    'LOT',
    lots.map((lot) => ({ lot, quantity: '1000' })),
    '14000'
  );
  const pool: Pooled[] = lots.map((lot) => ({ product: 'LOT', lot }));
  const book = async (more: number): Promise<void> => {
    for (let n = 0; n < more; n++) {
      const inputs = Array.from({ length: 1 + next(3) }, () => pool[next(pool.length)]!)
        .filter((row, at, all) => all.indexOf(row) === at)
        .map((row) => ({ ...row, quantity: row.serial ? '1' : '0.125' }));
      const outputs =
        next(3) === 0
          ? [{ product: 'MADE', serial: `RS-${count++}`, quantity: '1' }]
          : [
              { product: 'MADELOT', lot: `RM-${next(12)}`, quantity: '2' },
              ...(next(2) ? [{ product: 'LOT', lot: `RL-${next(14)}`, quantity: '1' }] : [])
            ];
      try {
        await world.build([{ outputs, inputs }]);
      } catch {
        continue;
      } // a serial already used up: the ledger refuses, the next build goes on
      for (const output of outputs) {
        const mark: Pooled =
          'serial' in output
            ? { product: output.product, serial: output.serial }
            : { product: output.product, lot: output.lot };
        if (!pool.some((row) => row.lot === mark.lot && row.serial === mark.serial))
          pool.push(mark);
      }
    }
  };
  await book(builds);
  return book;
}
