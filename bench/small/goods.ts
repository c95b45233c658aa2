import type { Sql } from '../../src/lib/server/kernel/db/client.ts';

/** Parts of one built unit. */
export const PARTS = 8;

/** Serials that lie there to be built of and to be shipped, by what their numbers begin with. */
export const PART = 'SB-PART',
  UNIT = 'SB-UNIT';

/** What the rows of bookings name, by id. */
export interface Goods {
  person: number;
  supplier: number;
  customer: number;
  place: number;
  part: number;
  unit: number;
  /** The first mark of the parts and of the units; the others follow. */
  firstPart: number;
  firstUnit: number;
}

/**
 * A supplier, a customer, a place and two products by serial, and so many of each on hand, straight
 * into the tables. Needs the owner's rights.
 * @param units how many units lie there, each with parts for another
 */
export async function putGoods(owner: Sql, units: number): Promise<Goods> {
  return (await owner.begin(async (tx) => {
    const one = async (statement: string): Promise<number> => {
      const [row] = await tx.unsafe<{ id: number }[]>(statement);
      return row!.id;
    };
    const person = await one(
      `INSERT INTO person (login, name) VALUES ('sb', 'Small bookings') RETURNING id`
    );
    const site = await one(`INSERT INTO site (code, name) VALUES ('SB', 'Small') RETURNING id`);
    const place = await one(
      `INSERT INTO place (site_id, code, name) VALUES (${site}, 'SB', 'small') RETURNING id`
    );
    const partner = (code: string): Promise<number> =>
      one(
        `INSERT INTO partner (code, name, supplier, customer)
         VALUES ('${code}', '${code}', true, true) RETURNING id`
      );
    const product = (code: string): Promise<number> =>
      one(
        `INSERT INTO product (code, name, unit, decimals, made, marking)
         VALUES ('${code}', '${code}', 'each', 0, true, 'serial') RETURNING id`
      );
    const [supplier, customer] = [await partner('SB-SUP'), await partner('SB-CUS')];
    const [part, unit] = [await product(PART), await product(UNIT)];
    const event = await one(
      `INSERT INTO event (kind, document, happened_at, booked_by)
       VALUES ('receive', 'SB-GOODS', now(), ${person}) RETURNING id`
    );
    const serials = (of: number, prefix: string, count: number): Promise<number> =>
      one(
        `WITH made AS (
           INSERT INTO mark (product_id, kind, number, birth_event)
           SELECT ${of}, 'serial', '${prefix}-' || n, ${event} FROM generate_series(0, ${count - 1}) n
           RETURNING id
         )
         SELECT min(id) AS id FROM made`
      );
    const firstPart = await serials(part, PART, units * PARTS);
    const firstUnit = await serials(unit, UNIT, units);
    await tx`
      INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${event}::bigint, id, ${place}::bigint, 1
      FROM mark
      WHERE birth_event = ${event}
    `;
    return { person, supplier, customer, place, part, unit, firstPart, firstUnit };
  })) as Goods;
}
