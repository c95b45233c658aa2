import { daysLater } from '../src/lib/core/calendar/day.ts';
import { NO_SPEC, type Limit } from '../src/lib/core/quality/spec.ts';
import type { Actor } from '../src/lib/server/kernel/actor.ts';
import { recordTest, signTest } from '../src/lib/server/quality/test-mark.ts';
import { promise } from '../src/lib/server/shipping/promises.ts';
import { putSpec } from '../src/lib/server/catalogue/specs.ts';
import { putWishes } from '../src/lib/server/catalogue/wishes.ts';
import type { Sql } from '../src/lib/server/kernel/db/client.ts';

const number = (name: string, unit: string, least: string | null, most: string | null): Limit => ({
  name,
  kind: 'number',
  unit,
  least,
  most,
  good: [],
  choices: [],
  required: true
});

/**
 * Specs, tests, wishes and promises of the demo: jackets must have 150 N of buoyancy, for one
 * customer 165; three of those on hand are tested, one is below what that customer asks, one waits
 * for its second signature.
 */
export async function seedQuality(
  sql: Sql,
  actors: ReadonlyMap<string, Actor>,
  now: Date
): Promise<void> {
  const marit = actors.get('marit')!,
    wilf = actors.get('wilf')!;
  const today = now.toISOString().slice(0, 10);
  const buoyancy = number('buoyancy', 'N', '150', '190');
  const leak: Limit = {
    name: 'leak test',
    kind: 'choice',
    unit: '',
    least: null,
    most: null,
    choices: ['tight', 'loose'],
    good: ['tight'],
    required: true
  };
  await putSpec(sql, marit, 'TN150', null, {
    ...NO_SPEC,
    limits: [buoyancy, leak],
    holdOnFail: true,
    sampling: 'every jacket'
  });
  await putSpec(sql, marit, 'TN150', 'PILOTS', {
    ...NO_SPEC,
    limits: [number('buoyancy', 'N', '165', null)]
  });
  await putSpec(sql, marit, 'GLU-2', null, {
    ...NO_SPEC,
    limits: [number('viscosity', 'Pa s', '8', '14')],
    retestDays: 60,
    sampling: '3 of each drum'
  });
  await putWishes(sql, 'PILOTS', [
    {
      product: 'TN150',
      leastDays: null,
      leastShare: null,
      oneLot: false,
      oneDate: false,
      tested: true
    }
  ]);
  await putWishes(sql, 'SKARROW', [
    { product: null, leastDays: 180, leastShare: null, oneLot: true, oneDate: true, tested: false }
  ]);
  const jackets = await sql<{ number: string }[]>`
    SELECT m.number
    FROM mark m
      JOIN product p ON p.id = m.product_id
      JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
    WHERE p.code = 'TN150'
    ORDER BY m.number
    LIMIT 8
  `;
  const newtons = ['171.5', '158.2', '169.0', '174.3', '166.1', '162.8', '170.4'];
  for (const [index, { number: serial }] of jackets.slice(0, newtons.length).entries()) {
    const { id } = await recordTest(
      sql,
      marit,
      `demo buoyancy ${index}`,
      {
        product: 'TN150',
        serial,
        takenAt: new Date(now.getTime() - (9 - index) * 86_400_000).toISOString(),
        instrument: 'water basin 2',
        sample: '',
        note: '',
        results: [
          { name: 'buoyancy', value: newtons[index]!, unit: 'N' },
          { name: 'leak test', value: 'tight', unit: '' }
        ]
      },
      now
    );
    if (index < newtons.length - 1) await signTest(sql, wilf, id);
  }
  for (const [index, { number: lot }] of (
    await sql<{ number: string }[]>`
      SELECT m.number
      FROM mark m
        JOIN product p ON p.id = m.product_id
      WHERE p.code = 'GLU-2' AND m.kind = 'lot'
      ORDER BY m.id
    `
  ).entries()) {
    const { id } = await recordTest(
      sql,
      marit,
      `demo viscosity ${index}`,
      {
        product: 'GLU-2',
        lot,
        takenAt: new Date(now.getTime() - 20 * 86_400_000).toISOString(),
        instrument: 'cup 4 mm',
        sample: '3 of each drum',
        note: '',
        results: [
          { name: 'viscosity', value: ['10.4', '11.2', '12.9', '9.8'][index % 4]!, unit: 'Pa s' }
        ]
      },
      now
    );
    await signTest(sql, wilf, id);
  }
  const [order] = await sql<{ number: string }[]>`
    SELECT o.number
    FROM trade_order o
      JOIN partner t ON t.id = o.partner_id
    WHERE o.kind = 'sales' AND t.code = 'SKARROW' AND o.closed_at IS NULL
    ORDER BY o.due_on DESC
    LIMIT 1
  `;
  if (order && jackets[0])
    await promise(sql, wilf, order.number, [{ line: 1, serial: jackets[0].number }], {
      until: daysLater(today, 7),
      day: today
    });
}
