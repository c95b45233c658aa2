import { randomBytes } from 'node:crypto';
import { explode } from '../src/lib/core/catalogue/explode.ts';
import { quantity } from '../src/lib/core/quantity/quantity.ts';
import { book } from '../src/lib/server/ledger/book.ts';
import { build } from '../src/lib/server/making/kinds.ts';
import { putBill, readBillTree } from '../src/lib/server/catalogue/bills.ts';
import { putOrder } from '../src/lib/server/orders/write-order.ts';
import { putProduct } from '../src/lib/server/catalogue/products.ts';
import { compare, type Measured } from './measure.ts';
import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';

const UNITS = 1000,
  SERIALS = 6,
  TURNS = 7;

/**
 * Parts to build of, straight into the tables: six serials for each unit of every turn of both
 * sides, and two lots.
 */
async function parts(
  { owner, world }: Bench,
  product: Record<string, number>
): Promise<{ serials: { id: number; number: string }[]; lots: number[] }> {
  return (await owner.begin(async (tx) => {
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by)
      VALUES ('receive', 'PARTS', now(), ${world.person})
      RETURNING id
    `;
    const serials = await tx<{ id: number; number: string }[]>`
      INSERT INTO mark (product_id, kind, number, birth_event)
      SELECT ${product['BB-BIT']!}::bigint, 'serial', 'BP-' || n, ${event!.id}::bigint
      FROM generate_series(1, ${UNITS * SERIALS * 2 * (TURNS + 1)}::int) n
      RETURNING id, number
    `;
    const lots = (
      await tx<{ id: number }[]>`
        INSERT INTO mark (product_id, kind, number, birth_event)
        SELECT p, 'lot', 'BL', ${event!.id}::bigint
        FROM unnest(${[product['BB-GLUE']!, product['BB-WEB']!]}::bigint[]) p
        RETURNING id
      `
    ).map((row) => row.id);
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}::bigint, m, ${world.place}::bigint, 1
      FROM unnest(${serials.map((row) => row.id)}::bigint[]) m
      UNION ALL
      SELECT ${event!.id}::bigint, m, ${world.place}::bigint, 1000000
      FROM unnest(${lots}::bigint[]) m
    `;
    await tx`
      INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
      SELECT m, ${world.place}::bigint, 'serial', (SELECT product_id FROM mark WHERE id = m), 1
      FROM unnest(${serials.map((row) => row.id)}::bigint[]) m
      UNION ALL
      SELECT m, ${world.place}::bigint, 'lot', (SELECT product_id FROM mark WHERE id = m), 1000000
      FROM unnest(${lots}::bigint[]) m
    `;
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
    return { serials: [...serials], lots };
  })) as { serials: { id: number; number: string }[]; lots: number[] };
}

/**
 * 1,000 units with 8 components each, recorded per unit beside a bill and an order, booked at once,
 * against the bare insertion of the same rows.
 */
export async function buildMany(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  for (const [code, marking, decimals] of [
    ['BB-BIT', 'serial', 0],
    ['BB-GLUE', 'lot', 3],
    ['BB-WEB', 'lot', 3],
    ['BB-UNIT', 'serial', 0]
  ] as const)
    await putProduct(app, code, {
      name: code,
      unit: 'each',
      decimals,
      made: true,
      marking
    } as never);
  const line = (product: string, amount: string) => ({
    product,
    quantity: amount,
    per: 'unit' as const,
    scrapPercent: '0',
    follow: 'unit' as const,
    positions: [],
    alternates: [],
    revision: null
  });
  await putBill(
    app,
    'BB-UNIT',
    {
      batch: null,
      note: '',
      coProducts: [],
      parts: [line('BB-BIT', String(SERIALS)), line('BB-GLUE', '0.12'), line('BB-WEB', '2.4')]
    },
    world.person
  );
  await putOrder(app, actorOf(bench.world), 'work', 'WO-BENCH', {
    due: '2030-01-01',
    note: '',
    lines: [{ product: 'BB-UNIT', quantity: String(UNITS * (TURNS + 1)) }]
  } as never);
  const product = Object.fromEntries(
    (
      await app<{ code: string; id: number }[]>`SELECT code, id FROM product WHERE code LIKE 'BB-%'`
    ).map((row) => [row.code, row.id])
  );
  const { serials, lots } = await parts(bench, product);
  const take = (side: 0 | 1, turn: number, unit: number) =>
    serials.slice(
      ((turn * 2 + side) * UNITS + unit) * SERIALS,
      ((turn * 2 + side) * UNITS + unit + 1) * SERIALS
    );
  return compare(
    'build-1k',
    UNITS,
    (turn) =>
      book(app, build, actorOf(bench.world), `build ${turn} ${randomBytes(4).toString('hex')}`, {
        document: 'WO-BENCH',
        place: 'P',
        groups: Array.from({ length: UNITS }, (_, unit) => ({
          outputs: [{ product: 'BB-UNIT', serial: `OURS-${turn}-${unit}`, quantity: '1' }],
          inputs: [
            ...take(0, turn, unit).map((one) => ({
              product: 'BB-BIT',
              serial: one.number,
              quantity: '1'
            })),
            { product: 'BB-GLUE', lot: 'BL', quantity: '0.12' },
            { product: 'BB-WEB', lot: 'BL', quantity: '2.4' }
          ]
        }))
      }),
    (turn) =>
      owner.begin(async (tx) => {
        // The bare side keeps stock itself, so the trigger that does it for the application is not
        // charged to it.
        await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
        const used = Array.from({ length: UNITS }, (_, unit) =>
          take(1, turn, unit).map((one) => one.id)
        );
        const [event] = await tx<{ id: number }[]>`
          INSERT INTO event (kind, document, happened_at, booked_by)
          VALUES ('build', ${`BARE-${turn}`}, now(), ${world.person})
          RETURNING id
        `;
        const units = (
          await tx<{ id: number }[]>`
            INSERT INTO mark (product_id, kind, number, birth_event)
            SELECT ${product['BB-UNIT']!}::bigint, 'serial', ${`BARE-${turn}-`} || n,
              ${event!.id}::bigint
            FROM generate_series(1, ${UNITS}::int) n
            RETURNING id
          `
        ).map((row) => row.id);
        const ties = (
          await tx<{ id: number }[]>`
            INSERT INTO transformation (event_id)
            SELECT ${event!.id}::bigint
            FROM generate_series(1, ${UNITS}::int)
            RETURNING id
          `
        ).map((row) => row.id);
        const inputs = used.flatMap((ids, unit) => [
          ...ids.map((id) => [ties[unit]!, id, '1'] as const),
          [ties[unit]!, lots[0]!, '0.12'] as const,
          [ties[unit]!, lots[1]!, '2.4'] as const
        ]);
        await tx`
          INSERT INTO transformation_input (transformation_id, mark_id, quantity)
          SELECT *
          FROM unnest(
            ${inputs.map((row) => row[0])}::bigint[], ${inputs.map((row) => row[1])}::bigint[],
              ${inputs.map((row) => row[2])}::numeric[]
          )
        `;
        await tx`
          INSERT INTO transformation_output (transformation_id, mark_id, quantity)
          SELECT t, m, 1
          FROM unnest(${ties}::bigint[], ${units}::bigint[]) AS x (t, m)
        `;
        await tx`
          INSERT INTO movement (event_id, mark_id, place_id, quantity)
          SELECT ${event!.id}, m, ${world.place}, q
          FROM unnest(
            ${[...inputs.map((row) => row[1]), ...units]}::bigint[],
              ${[...inputs.map((row) => `-${row[2]}`), ...units.map(() => '1')]}::numeric[]
          ) AS x (m, q)
        `;
        await tx`
          UPDATE stock s
          SET quantity = s.quantity - u.q
          FROM (
            SELECT m, sum(q) AS q
            FROM unnest(
              ${inputs.map((row) => row[1])}::bigint[], ${inputs.map((row) => row[2])}::numeric[]
            ) AS x (m, q)
            GROUP BY m
          ) u
          WHERE s.mark_id = u.m AND s.place_id = ${world.place}
        `;
        await tx`
          INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
          SELECT m, ${world.place}, 'serial', (SELECT product_id FROM mark WHERE id = ${units[0]!}), 1
          FROM unnest(${units}::bigint[]) m
        `;
        await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
      }),
    TURNS
  );
}

/** A bill of 10,000 lines over three levels, read and exploded, against reading its rows. */
export async function explodeMany({ app, world }: Bench): Promise<Measured> {
  const groups = 100,
    lines = 99;
  await app`
    INSERT INTO product (code, name, unit, decimals, made, marking)
    SELECT 'XB-' || n, 'part ' || n, 'each', 0, true, 'lot'
    FROM generate_series(0, ${groups * (lines + 1)}::int) n
  `;
  const part = (n: number) => ({
    product: `XB-${n}`,
    quantity: String(1 + (n % 4)),
    per: 'unit' as const,
    scrapPercent: String(n % 5),
    follow: 'batch' as const,
    positions: [],
    alternates: [],
    revision: null
  });
  for (let group = 0; group < groups; group++)
    await putBill(
      app,
      `XB-${1 + group}`,
      {
        batch: null,
        note: '',
        coProducts: [],
        parts: Array.from({ length: lines }, (_, n) => part(1 + groups + group * lines + n))
      },
      world.person
    );
  await putBill(
    app,
    'XB-0',
    {
      batch: null,
      note: '',
      coProducts: [],
      parts: Array.from({ length: groups }, (_, n) => part(1 + n))
    },
    world.person
  );
  const ids = (
    await app<
      { id: number }[]
    >`SELECT b.id FROM bill b JOIN product p ON p.id = b.product_id WHERE p.code LIKE 'XB-%'`
  ).map((row) => row.id);
  const day = '2099-01-01';
  return compare(
    'explode-10k',
    groups * (lines + 1),
    async () => {
      const bills = await readBillTree(app, 'XB-0', day);
      const result = explode('XB-0', quantity(7), (product) => bills.get(product) ?? null);
      if (!result.ok || result.lines.length !== groups * (lines + 1))
        throw new Error('The explosion is not what it should be.');
    },
    async () => {
      await app`
        SELECT l.bill_id, l.line, p.code, l.quantity, l.per, l.scrap_percent, l.follow, l.positions,
          l.alternates, l.revision
        FROM bill_part l
          JOIN product p ON p.id = l.component_id
        WHERE l.bill_id = ANY(${ids})
        ORDER BY l.bill_id, l.line
      `;
    },
    21
  );
}
