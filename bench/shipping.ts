import { randomBytes } from 'node:crypto';
import { book } from '../src/lib/server/ledger/book.ts';
import { Problem } from '../src/lib/server/kernel/problem.ts';
import { ship } from '../src/lib/server/shipping/kinds.ts';
import { putPartner } from '../src/lib/server/catalogue/partners-places.ts';
import { putProduct } from '../src/lib/server/catalogue/products.ts';
import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';

const SHIPMENT = 10_000,
  TURNS = 7,
  CONTESTS = 15,
  SHIPPERS = 32;

/** Serials on hand, straight into the tables: for each turn of both sides. */
async function onHand(
  { owner, world }: Bench,
  product: number,
  prefix: string,
  count: number
): Promise<{ id: number; number: string }[]> {
  return (await owner.begin(async (tx) => {
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by)
      VALUES ('receive', 'GOODS', now(), ${world.person})
      RETURNING id
    `;
    const serials = await tx<{ id: number; number: string }[]>`
      INSERT INTO mark (product_id, kind, number, birth_event)
      SELECT ${product}::bigint, 'serial', ${prefix} || n, ${event!.id}::bigint
      FROM generate_series(1, ${count}::int) n
      RETURNING id, number
    `;
    const ids = serials.map((row) => row.id);
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}::bigint, m, ${world.place}::bigint, 1
      FROM unnest(${ids}::bigint[]) m
    `;
    await tx`
      INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
      SELECT m, ${world.place}::bigint, 'serial', (SELECT product_id FROM mark WHERE id = m), 1
      FROM unnest(${ids}::bigint[]) m
    `;
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
    return [...serials];
  })) as { id: number; number: string }[];
}

/**
 * The shipment of 10,000 serials, against the bare insertion of its event and movements with the
 * stock they take.
 */
export async function shipMany(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  await putPartner(app, 'BENCH-CUS', { name: 'Customer', supplier: false, customer: true });
  await putProduct(app, 'SB-UNIT', {
    name: 'SB-UNIT',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'serial'
  } as never);
  const [product] = await app<{ id: number }[]>`SELECT id FROM product WHERE code = 'SB-UNIT'`;
  const serials = await onHand(bench, product!.id, 'SB-', SHIPMENT * 2 * (TURNS + 1));
  const take = (side: 0 | 1, turn: number) =>
    serials.slice((turn * 2 + side) * SHIPMENT, (turn * 2 + side + 1) * SHIPMENT);
  return compare(
    'ship-10k',
    SHIPMENT,
    (turn) =>
      book(app, ship, actorOf(bench.world), `ship ${turn} ${randomBytes(4).toString('hex')}`, {
        document: `SO-BENCH-${turn}`,
        customer: 'BENCH-CUS',
        lines: [{ product: 'SB-UNIT', marks: take(0, turn).map((row) => ({ serial: row.number })) }]
      }),
    (turn) =>
      owner.begin(async (tx) => {
        // The bare side keeps stock itself, so the trigger that does it for the application is not
        // charged to it.
        await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
        const ids = take(1, turn).map((row) => row.id);
        const [event] = await tx<{ id: number }[]>`
          INSERT INTO event (kind, document, happened_at, booked_by)
          VALUES ('ship', ${`BARE-${turn}`}, now(), ${world.person})
          RETURNING id
        `;
        await tx`
          INSERT INTO movement (event_id, mark_id, place_id, quantity)
          SELECT ${event!.id}, m, ${world.place}, -1
          FROM unnest(${ids}::bigint[]) m
        `;
        await tx`
          UPDATE stock s
          SET quantity = 0
          FROM unnest(${ids}::bigint[]) AS x (m)
          WHERE s.mark_id = x.m AND s.place_id = ${world.place}
        `;
        await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
      }),
    TURNS
  );
}

/**
 * 32 shippers drawing on one lot at once, which never oversells, against the same number of bare
 * row updates under the same contention.
 */
export async function contend(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  await putPartner(app, 'BENCH-CUS', { name: 'Customer', supplier: false, customer: true });
  await putProduct(app, 'CB-LOT', {
    name: 'CB-LOT',
    unit: 'each',
    decimals: 0,
    made: true,
    marking: 'lot'
  } as never);
  const [product] = await app<{ id: number }[]>`SELECT id FROM product WHERE code = 'CB-LOT'`;
  // Two shippers more than there is for: the last are told it is short.
  const enough = SHIPPERS - 2;
  const lots = (await owner.begin(async (tx) => {
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by)
      VALUES ('receive', 'LOTS', now(), ${world.person})
      RETURNING id
    `;
    const made = await tx<{ id: number; number: string }[]>`
      INSERT INTO mark (product_id, kind, number, birth_event)
      SELECT ${product!.id}::bigint, 'lot', 'CB-' || n, ${event!.id}::bigint
      FROM generate_series(0, ${2 * (CONTESTS + 1)}::int) n
      RETURNING id, number
    `;
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}::bigint, m, ${world.place}::bigint, ${enough}
      FROM unnest(${made.map((row) => row.id)}::bigint[]) m
    `;
    return [...made];
  })) as { id: number; number: string }[];
  return compare(
    'contend-32',
    SHIPPERS,
    async (turn) => {
      const lot = lots[2 * turn]!;
      const tries = await Promise.allSettled(
        Array.from({ length: SHIPPERS }, (_, n) =>
          book(
            app,
            ship,
            actorOf(bench.world),
            `contend ${turn} ${n} ${randomBytes(4).toString('hex')}`,
            {
              document: `C-${turn}-${n}`,
              customer: 'BENCH-CUS',
              lines: [{ product: 'CB-LOT', marks: [{ lot: lot.number, quantity: '1' }] }]
            }
          )
        )
      );
      const sold = tries.filter((one) => one.status === 'fulfilled').length;
      if (
        sold !== enough ||
        tries.some((one) => one.status === 'rejected' && !(one.reason instanceof Problem))
      )
        throw new Error(`${sold} of ${enough} were sold.`);
    },
    async (turn) => {
      const lot = lots[2 * turn + 1]!;
      // What a careful hand would write: lock the row, look, write event and movement with the
      // stock, commit.
      await Promise.all(
        Array.from({ length: SHIPPERS }, (_, n) =>
          app.begin(async (tx) => {
            const [row] = await tx<{ quantity: string }[]>`
              SELECT quantity
              FROM stock
              WHERE mark_id = ${lot.id} AND place_id = ${world.place}
              FOR UPDATE
            `;
            if (Number(row!.quantity) < 1) return;
            const [event] = await tx<{ id: number }[]>`
              INSERT INTO event (kind, document, happened_at, booked_by)
              VALUES ('ship', ${`CB-${turn}-${n}`}, now(), ${world.person})
              RETURNING id
            `;
            await tx`
              INSERT INTO movement (event_id, mark_id, place_id, quantity)
              VALUES (${event!.id}, ${lot.id}, ${world.place}, -1)
            `;
          })
        )
      );
    },
    CONTESTS
  );
}
