import { daysLater } from '../src/lib/core/calendar/day.ts';
import type { Actor } from '../src/lib/server/kernel/actor.ts';
import { book, type BookingKind, type Circumstances } from '../src/lib/server/ledger/book.ts';
import { pack } from '../src/lib/server/shipping/kinds.ts';
import { goodsReturn } from '../src/lib/server/shipping/kinds.ts';
import { ship } from '../src/lib/server/shipping/kinds.ts';
import { putCompany } from '../src/lib/server/catalogue/company.ts';
import { putOrder, setSerialsLater } from '../src/lib/server/orders/write-order.ts';
import { makePickList } from '../src/lib/server/shipping/make-pick-list.ts';
import { pickByScan } from '../src/lib/server/shipping/pick-list.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';

/**
 * Shipping in the demo: two cartons on a pallet that left yesterday, a pick list half picked and
 * begun to be packed, an order whose serials are named later, and a jacket that came back and waits
 * for a decision.
 */
export async function seedShipping(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  const wilf = actors.get('wilf')!,
    priya = actors.get('priya')!;
  const today = now.toISOString().slice(0, 10);
  await putCompany(sql, wilf, {
    name: 'Brackwater Safety',
    gs1Prefix: '9520601',
    address: 'Quay Works, Slipway Lane\nBrackwater'
  });
  let count = 0;
  const booking = <R extends Circumstances>(
    kind: BookingKind<R>,
    daysAgo: number,
    time: string,
    request: Omit<R, 'at'>
  ) =>
    book(sql, kind, priya, `demo shipping ${++count}`, {
      ...request,
      at: daysAgo === 0 ? now.toISOString() : `${daysLater(today, -daysAgo)}T${time}:00Z`
    } as never);
  const order = (
    number: string,
    partner: string,
    placed: number,
    due: number,
    lines: [string, string][]
  ) =>
    putOrder(sql, wilf, 'sales', number, {
      partner,
      placed: daysLater(today, -placed),
      due: daysLater(today, -due),
      note: '',
      lines: lines.map(([product, quantity]) => ({ product, quantity }))
    });

  await order('SO-3324', 'MARROW', 6, 1, [['RK-6', '2']]);
  const cartons: string[] = [];
  for (const { number: lot } of await sql<{ number: string }[]>`
    SELECT m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
    WHERE p.code = 'RK-6' AND m.kind = 'lot'
    ORDER BY m.number
    LIMIT 2
  `) {
    const { answer } = await booking(pack, 1, '10:05', {
      document: 'SO-3324',
      kind: 'pack',
      make: 'carton',
      lines: [{ product: 'RK-6', lot, quantity: '1' }],
      units: []
    });
    cartons.push((JSON.parse(answer) as { units: string[] }).units[0]!);
  }
  const { answer } = await booking(pack, 1, '10:20', {
    document: 'SO-3324',
    kind: 'pack',
    make: 'pallet',
    lines: [],
    units: cartons
  });
  await booking(ship, 1, '14:30', {
    document: 'SO-3324',
    customer: 'MARROW',
    reference: 'HAUL 40718',
    lines: [],
    units: (JSON.parse(answer) as { units: string[] }).units
  });

  await order('SO-3325', 'NORTHQUAY', 2, -2, [
    ['RK-1', '8'],
    ['TN275', '1']
  ]);
  const [kits] = await sql<{ number: string }[]>`
    SELECT m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN stock s ON s.mark_id = m.id AND s.quantity >= 8
    WHERE p.code = 'RK-1'
    ORDER BY m.number DESC
    LIMIT 1
  `;
  await makePickList(
    sql,
    priya,
    'SO-3325',
    [
      { line: 1, lot: kits!.number, quantity: '8' },
      { line: 2, quantity: '1' }
    ],
    { until: null, day: today }
  );
  await pickByScan(
    sql,
    priya,
    'SO-3325',
    'demo pick 1',
    { scan: kits!.number, quantity: '5' },
    today
  );
  await booking(pack, 0, '', {
    document: 'SO-3325',
    kind: 'pack',
    make: 'carton',
    lines: [{ product: 'RK-1', lot: kits!.number, quantity: '3' }],
    units: []
  });
  await setSerialsLater(sql, wilf, 'SO-3323', true);

  // What the daily audit found on the days before: invented, as the demo was not there to be looked
  // at.
  const found = [9, 9, 8, 8, 10, 10, 11, 9, 9, 7, 7, 8, 8, 6];
  await sql`
    INSERT INTO loose_end_count (day, kind, count)
    SELECT ${today}::date - d, 'part missing', c
    FROM unnest(
      ${found.map((_, index) => found.length - index)}::int[], ${found}::int[]
    ) AS t (d, c)
  `;

  const [sold] = await sql<{ number: string; place: string }[]>`
    SELECT m.number
    FROM sold s
      JOIN mark m ON m.id = s.mark_id
      JOIN product p ON p.id = m.product_id
    WHERE p.code = 'TN150' AND s.quantity > 0
    ORDER BY m.id
    LIMIT 1
  `;
  await booking(goodsReturn, 4, '11:40', {
    document: 'RT-71',
    place: 'QW-QUAR',
    reason: 'Inflated by itself in the locker.',
    lines: [{ product: 'TN150', serial: sold!.number }]
  });
}
