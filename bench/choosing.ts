import { NO_WISHES } from '../src/lib/core/catalogue/wishes.ts';
import { propose, type Offered } from '../src/lib/core/shipping/propose.ts';
import { groupBy } from '../src/lib/core/group-by.ts';
import { readOffers } from '../src/lib/server/shipping/proposal.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';

const LOTS = 100_000,
  PRODUCTS = 50,
  LINES = 1000,
  DAY = '2026-11-23';

/**
 * Proposals for 1,000 lines over 100,000 lots of 50 products, reading included, against reading
 * those lots once.
 */
export async function proposeMany({ app, owner, world }: Bench): Promise<Measured> {
  const codes = (await owner.begin(async (tx) => {
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    const products = await tx<{ id: number; code: string }[]>`
      INSERT INTO product (code, name, unit, decimals, marking)
      SELECT 'CH-' || n, 'choice ' || n, 'each', 0, 'lot'
      FROM generate_series(1, ${PRODUCTS}::int) n
      RETURNING id, code
    `;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by)
      VALUES ('receive', 'LOTS', now(), ${world.person})
      RETURNING id
    `;
    const marks = await tx<{ id: number }[]>`
      INSERT INTO mark (product_id, kind, number, expires_on, birth_event)
      SELECT (${products.map((row) => row.id)}::bigint[])[1 + n % ${PRODUCTS}::int], 'lot',
        'CL-' || n, ${DAY}::date + (n * 7919 % 900 - 30), ${event!.id}::bigint
      FROM generate_series(1, ${LOTS}::int) n
      RETURNING id
    `;
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}::bigint, m, ${world.place}::bigint, 20
      FROM unnest(${marks.map((row) => row.id)}::bigint[]) m
    `;
    await tx`
      INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
      SELECT m, ${world.place}::bigint, 'lot', (SELECT product_id FROM mark WHERE id = m), 20
      FROM unnest(${marks.map((row) => row.id)}::bigint[]) m
    `;
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
    return products.map((row) => row.code);
  })) as string[];
  await owner`ANALYZE mark, stock`;
  return compare(
    'propose-1k',
    LOTS,
    async () => {
      const offers = groupBy(await readOffers(app, codes, null, DAY), (offer) => offer.product);
      let picked = 0;
      codes.forEach((code, at) => {
        const lines = Array.from({ length: LINES / PRODUCTS }, (_, line) => ({
          line: at * 100 + line,
          wanted: String(30 + line)
        }));
        const here: Offered[] = offers.get(code)!;
        for (const line of propose(lines, here, 'first expired', NO_WISHES, DAY).lines)
          picked += line.picks.length;
      });
      if (picked < LINES) throw new Error('The proposal is not what it should be.');
    },
    async () => {
      await app`
        SELECT m.id, m.product_id, m.kind, m.number, m.state, m.expires_on, s.quantity, c.code,
          e.happened_at::date
        FROM product p
          JOIN mark m ON m.product_id = p.id
          JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
          JOIN place c ON c.id = s.place_id
          JOIN event e ON e.id = m.birth_event
        WHERE p.code = ANY(${codes})
      `;
    }
  );
}
