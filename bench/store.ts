import { randomBytes } from 'node:crypto';
import { book } from '../src/lib/server/ledger/book.ts';
import { putPlace } from '../src/lib/server/catalogue/partners-places.ts';
import { putProduct } from '../src/lib/server/catalogue/products.ts';
import { open } from '../src/lib/server/receiving/kinds.ts';
import { approveCount } from '../src/lib/server/stock/counts/approve-count.ts';
import { openCount } from '../src/lib/server/stock/counts/open-count.ts';
import { writeEntries } from '../src/lib/server/stock/counts/write-entries.ts';
import { move } from '../src/lib/server/stock/kinds.ts';
import { actorOf } from './actor.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';

const MANY = 10_000,
  OFF = 200,
  TURNS = 5,
  CN = 'CN-UNIT';

const key = (what: string, turn: number): string =>
  `${what} ${turn} ${randomBytes(4).toString('hex')}`;
const numbers = (prefix: string, turn: number): string[] =>
  Array.from({ length: MANY }, (_, n) => `${prefix}-${turn}-${n}`);

/** A product for the store's benchmarks, and its id. */
export async function product({ app }: Bench, code: string): Promise<number> {
  await putProduct(app, code, {
    name: code,
    unit: 'each',
    decimals: 0,
    made: false,
    marking: 'serial'
  } as never);
  const [row] = await app<{ id: number }[]>`SELECT id FROM product WHERE code = ${code}`;
  return row!.id;
}

async function place({ app }: Bench, code: string): Promise<number> {
  await putPlace(app, code, { name: code, site: 'S' });
  const [row] = await app<{ id: number }[]>`SELECT id FROM place WHERE code = ${code}`;
  return row!.id;
}

/** Bare insertion of an event, serials born by it, their movements and stock. */
export async function bareBirths(
  { owner, world }: Bench,
  product_: number,
  place_: number,
  serials: readonly string[]
): Promise<number[]> {
  return (await owner.begin(async (tx) => {
    // The bare side keeps stock itself, so the trigger that does it for the application is not
    // charged to it.
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by)
      VALUES ('opening', 'BARE', now(), ${world.person})
      RETURNING id
    `;
    const rows = await tx<{ id: number }[]>`
      INSERT INTO mark (product_id, kind, number, birth_event)
      SELECT ${product_}::bigint, 'serial', n, ${event!.id}::bigint
      FROM unnest(${serials as string[]}::text[]) n
      RETURNING id
    `;
    const ids = rows.map((row) => row.id);
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity, unit_cost)
      SELECT ${event!.id}::bigint, m, ${place_}::bigint, 1, 12.5
      FROM unnest(${ids}::bigint[]) m
    `;
    await tx`
      INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
      SELECT m, ${place_}::bigint, 'serial', (SELECT product_id FROM mark WHERE id = m), 1
      FROM unnest(${ids}::bigint[]) m
    `;
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
    return ids;
  })) as number[];
}

/**
 * Lets the database finish what making the rows set off, so that neither side has it beside a turn.
 */
export async function settle({ owner }: Bench): Promise<void> {
  await owner`VACUUM (ANALYZE) mark, movement, stock, event`;
  await owner`CHECKPOINT`;
}

/** Opening stock of 10,000 serials, against the bare insertion of the same rows. */
export async function openMany(bench: Bench): Promise<Measured> {
  const id = await product(bench, 'OB-UNIT');
  const lines = (turn: number) => [
    {
      product: 'OB-UNIT',
      place: 'P',
      quantity: String(MANY),
      unitCost: '12.5',
      marks: numbers('OB', turn).map((serial) => ({ serial }))
    }
  ];
  await settle(bench);
  return compare(
    'opening-10k',
    MANY,
    (turn) =>
      book(bench.app, open, actorOf(bench.world), key('opening', turn), {
        document: `OB-${turn}`,
        lines: lines(turn)
      }),
    (turn) => bareBirths(bench, id, bench.world.place, numbers('OX', turn)),
    TURNS
  );
}

/** 10,000 serials to another place, against the bare insertion of their movements and stock. */
export async function moveMany(bench: Bench): Promise<Measured> {
  const { app, owner, world } = bench;
  const id = await product(bench, 'MB-UNIT');
  const to = await place(bench, 'MB-TO');
  const ours = numbers('MB', 0);
  await bareBirths(bench, id, world.place, ours);
  const theirs = await bareBirths(bench, id, world.place, numbers('MX', 0));
  const ways = (turn: number): [string, string] =>
    turn % 2 === 0 ? ['P', 'MB-TO'] : ['MB-TO', 'P'];
  await settle(bench);
  return compare(
    'move-10k',
    MANY,
    (turn) => {
      const [from, there] = ways(turn);
      return book(app, move, actorOf(bench.world), key('move', turn), {
        document: `MB-${turn}`,
        kind: 'move',
        lines: ours.map((serial) => ({ product: 'MB-UNIT', serial, from, to: there }))
      });
    },
    (turn) => {
      const [from, there] = turn % 2 === 0 ? [world.place, to] : [to, world.place];
      return owner.begin(async (tx) => {
        await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
        const [event] = await tx<{ id: number }[]>`
          INSERT INTO event (kind, document, happened_at, booked_by)
          VALUES ('move', 'BARE', now(), ${world.person})
          RETURNING id
        `;
        await tx`
          INSERT INTO movement (event_id, mark_id, place_id, quantity)
          SELECT ${event!.id}::bigint, m, p, q
          FROM unnest(${theirs}::bigint[]) m
            CROSS JOIN (VALUES (${from}::bigint, -1), (${there}::bigint, 1)) AS w (p, q)
        `;
        await tx`
          UPDATE stock s
          SET quantity = 0
          FROM unnest(${theirs}::bigint[]) AS x (m)
          WHERE s.mark_id = x.m AND s.place_id = ${from}
        `;
        await tx`
          INSERT INTO stock (mark_id, place_id, mark_kind, product_id, quantity)
          SELECT m, ${there}::bigint, 'serial', (SELECT product_id FROM mark WHERE id = ${theirs[0]!}), 1
          FROM unnest(${theirs}::bigint[]) m
          ON CONFLICT (mark_id, place_id) DO UPDATE SET quantity = excluded.quantity
        `;
        await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
      });
    },
    TURNS
  );
}

/**
 * A count of 10,000 serials, 200 of which are missing: entered and approved, against the bare
 * insertion of its entries, event, movements and stock.
 */
export const countMany = (bench: Bench): Promise<Measured> =>
  countPlaces(bench, 'count-10k', async (counted, approve) => {
    await enter(bench, counted);
    await approve();
  });

/** The approval of such a count alone, its entries made before, against the same insertion. */
export const approveMany = (bench: Bench): Promise<Measured> =>
  countPlaces(bench, 'approve-10k', (_, approve) => approve(), enter);

async function countPlaces(
  bench: Bench,
  name: string,
  ours: (counted: Counted, approve: () => Promise<unknown>) => Promise<unknown>,
  before: (bench: Bench, counted: Counted) => Promise<unknown> = async () => {}
): Promise<Measured> {
  const { app } = bench;
  const id = await product(bench, CN);
  const [second] = await app<{ id: number }[]>`
    INSERT INTO person (login, name, roles)
    VALUES ('bench-second', 'Second', '{coordinator}')
    ON CONFLICT (upper(login)) DO UPDATE SET name = excluded.name
    RETURNING id
  `;
  const approver = actorOf({ person: second!.id });
  const run = randomBytes(3).toString('hex');
  // Every turn of both sides counts a place of its own, filled before anything is timed.
  const there: Counted[] = [];
  for (let n = 0; n < (TURNS + 1) * 2; n++) {
    const code = `CN-${run}-${n}`,
      serials = numbers(`CN${run}`, n);
    const at = await place(bench, code);
    there.push({ place: at, code, serials, ids: await bareBirths(bench, id, at, serials) });
  }
  for (const [n, counted] of there.entries()) {
    await openCount(app, actorOf(bench.world), { document: counted.code, places: [counted.code] });
    if (n % 2 === 0) await before(bench, counted);
  }
  return compare(
    name,
    MANY,
    (turn) => {
      const counted = there[turn * 2]!;
      const asked = { reason: 'bench' };
      return ours(counted, () =>
        approveCount(app, approver, key('count', turn), counted.code, asked)
      );
    },
    (turn) => bareCount(bench, id, second!.id, there[turn * 2 + 1]!),
    TURNS
  );
}

/** Enters a count of a place: the first two hundred are missing. */
const enter = (bench: Bench, { code, serials }: Counted): Promise<unknown> =>
  writeEntries(bench.app, actorOf(bench.world), code, {
    lines: serials.map((serial, n) => ({
      product: CN,
      place: code,
      serial,
      quantity: n < OFF ? '0' : '1'
    })),
    done: []
  });

/** A place that is counted, with what lies there. */
interface Counted {
  place: number;
  code: string;
  serials: string[];
  ids: number[];
}

/** Bare insertion of a count's entries, its event, movements and stock. */
function bareCount(
  { owner, world }: Bench,
  id: number,
  second: number,
  { place: at, code, ids, serials }: Counted
): Promise<unknown> {
  return owner.begin(async (tx) => {
    await tx`ALTER TABLE movement DISABLE TRIGGER apply_movements`;
    await tx`
      INSERT INTO count_entry
        (count_id, place_id, product_id, kind, number, counted, seen, counted_by)
      SELECT k.id, ${at}::bigint, ${id}::bigint, 'serial', n,
        CASE WHEN i <= ${OFF} THEN 0 ELSE 1 END, 1, ${world.person}::bigint
      FROM unnest(${serials}::text[]) WITH ORDINALITY AS w (n, i)
        JOIN stock_count k ON k.document = ${code}
    `;
    const [event] = await tx<{ id: number }[]>`
      INSERT INTO event (kind, document, happened_at, booked_by, reason)
      VALUES ('count', ${code}, now(), ${second}, 'bench')
      RETURNING id
    `;
    const lost = ids.slice(0, OFF);
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event!.id}::bigint, m, ${at}::bigint, -1
      FROM unnest(${lost}::bigint[]) m
    `;
    await tx`
      UPDATE stock s
      SET quantity = 0
      FROM unnest(${lost}::bigint[]) AS x (m)
      WHERE s.mark_id = x.m AND s.place_id = ${at}
    `;
    await tx`ALTER TABLE movement ENABLE TRIGGER apply_movements`;
  });
}
