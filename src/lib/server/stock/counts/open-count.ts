import type { z } from 'zod';
import { numberKey, readNumber, shown } from '../../../core/numbers/number.ts';
import type { Actor } from '../../kernel/actor.ts';
import { within, type Db, type Sql, type Tx } from '../../kernel/db/client.ts';
import { Problem, type FormError } from '../../kernel/problem.ts';
import type { NewCount } from './schemas.ts';
import { readCountHead, type CountHead } from './count-head.ts';

type Wanted = z.infer<typeof NewCount>;

/** A place, a product or a lot that a count was asked for. */
interface Found {
  id: number;
  code: string;
}

/**
 * Opens a count. Where only products or lots are named it counts every place they lie at now. Sent
 * again it is the same count.
 * @throws Problem 409 where the document is taken or a place is being counted, 422 naming what is
 * not there
 */
export async function openCount(
  sql: Sql,
  actor: Actor,
  wanted: Wanted
): Promise<{ head: CountHead; fresh: boolean }> {
  const document = readNumber(wanted.document);
  if (!document.ok)
    throw refused(
      'number.malformed',
      'document',
      shown(wanted.document),
      `It cannot be used: ${document.why}.`
    );
  return within(sql, async (tx) => {
    const lock = `count ${numberKey(document.number)}`;
    await tx`SELECT pg_advisory_xact_lock(hashtextextended(${lock}, 0))`;
    const before = await openedBefore(tx, actor, document.number, wanted);
    if (before) return { head: before, fresh: false };
    const products = await found(tx, 'product', wanted.products ?? []);
    const lots = await foundLots(tx, products, wanted.lots ?? []);
    const named = await found(tx, 'place', wanted.places ?? []);
    const places = named.length > 0 ? named : await whereTheyLie(tx, products, lots);
    if (places.length === 0)
      throw refused(
        'place.unknown',
        'places',
        '',
        'Name at least one place to count, or a product that lies somewhere.'
      );
    await refuseCountedTwice(tx, places);
    const [count] = await tx<{ id: number }[]>`
      INSERT INTO stock_count (document, blind, opened_by)
      VALUES (${document.number}, ${wanted.blind ?? false}, ${actor.personId})
      RETURNING id
    `;
    await tx`
      INSERT INTO count_place (count_id, place_id)
      SELECT ${count!.id}::bigint, unnest(${places.map((place) => place.id)}::bigint[])
    `;
    await keepProducts(tx, count!.id, products, lots);
    return { head: await readCountHead(tx, document.number), fresh: true };
  });
}

async function keepProducts(
  tx: Tx,
  count: number,
  products: readonly Found[],
  lots: readonly (Found & { product: number })[]
): Promise<void> {
  const ofLots = new Set(lots.map((lot) => lot.product));
  const whole = products.filter((product) => !ofLots.has(product.id));
  await tx`
    INSERT INTO count_product (count_id, product_id, lot_id)
    SELECT ${count}::bigint, p, NULL::bigint FROM unnest(${whole.map(({ id }) => id)}::bigint[]) p
    UNION
    SELECT ${count}::bigint, p, l
    FROM unnest(
      ${lots.map((lot) => lot.product)}::bigint[], ${lots.map((lot) => lot.id)}::bigint[]
    ) w (p, l)
  `;
}

/**
 * The count this very request opened before, whose answer was lost.
 * @throws Problem 409 where the document is another count's
 */
async function openedBefore(
  tx: Tx,
  actor: Actor,
  document: string,
  { places = [], blind = false }: Wanted
): Promise<CountHead | null> {
  const [taken] = await tx<{ own: boolean }[]>`
    SELECT opened_by = ${actor.personId} AS own
    FROM stock_count
    WHERE upper(document) = ${numberKey(document)}
  `;
  if (!taken) return null;
  const head = await readCountHead(tx, document);
  const there = new Set(head.places.map(({ code }) => numberKey(code)));
  const same = places.every((code) => there.has(numberKey(code))) && head.blind === blind;
  if (taken.own && same && head.state === 'open') return head;
  throw new Problem(409, 'The number is taken', [
    {
      code: 'mark.duplicate',
      path: 'document',
      number: shown(document),
      message: `There is a count ${shown(document)} already. Give this one another number.`
    }
  ]);
}

/** One place is counted by one count at a time: of two nobody could say which is right. */
async function refuseCountedTwice(tx: Tx, places: readonly Found[]): Promise<void> {
  const ids = places.map((place) => place.id);
  // Two that ask at the same moment: the second waits, and sees what the first opened.
  await tx`SELECT FROM place WHERE id = ANY(${ids}) ORDER BY id FOR NO KEY UPDATE`;
  const taken = await tx<{ code: string; document: string }[]>`
    SELECT c.code, k.document
    FROM count_place p
      JOIN stock_count k ON k.id = p.count_id
      JOIN place c ON c.id = p.place_id
    WHERE p.open AND p.place_id = ANY(${ids})
    ORDER BY c.code
  `;
  if (taken.length === 0) return;
  throw new Problem(
    409,
    'A place is being counted already',
    taken.map(({ code, document }) => ({
      code: 'count.closed',
      path: 'places',
      number: code,
      message: `${code} is being counted by ${document}. Count on there, or end that count first.`
    }))
  );
}

async function found(
  db: Db,
  what: 'place' | 'product',
  codes: readonly string[]
): Promise<Found[]> {
  const keys = [...new Set(codes.map(numberKey))];
  if (keys.length === 0) return [];
  const rows = await db<Found[]>`
    SELECT id, code FROM ${db(what)} WHERE upper(code) = ANY(${keys})
  `;
  const known = new Set(rows.map((row) => numberKey(row.code)));
  const missing = codes.filter((code) => !known.has(numberKey(code)));
  if (missing.length === 0) return rows;
  const faults = missing.map((code) => unknown(what, code));
  throw new Problem(422, `There is no such ${what}`, faults);
}

const unknown = (what: 'place' | 'product' | 'lot', code: string): FormError => ({
  code: what === 'lot' ? 'mark.unknown' : `${what}.unknown`,
  path: `${what}s`,
  number: shown(code),
  message: `There is no ${what} ${shown(code)}. Check the ${what === 'lot' ? 'number' : 'code'}.`
});

async function foundLots(
  db: Db,
  products: readonly Found[],
  numbers: readonly string[]
): Promise<(Found & { product: number })[]> {
  if (numbers.length === 0) return [];
  const rows = await db<(Found & { product: number })[]>`
    SELECT id, number AS code, product_id AS product
    FROM mark
    WHERE kind = 'lot'
      AND number_key = ANY(${numbers.map(numberKey)})
      AND (${products.length === 0} OR product_id = ANY(${products.map(({ id }) => id)}))
  `;
  const known = new Set(rows.map((row) => numberKey(row.code)));
  const missing = numbers.filter((number) => !known.has(numberKey(number)));
  if (missing.length === 0) return rows;
  throw new Problem(
    422,
    'There is no such lot',
    missing.map((number) => unknown('lot', number))
  );
}

const whereTheyLie = (
  db: Db,
  products: readonly Found[],
  lots: readonly (Found & { product: number })[]
): Promise<Found[]> => db<Found[]>`
  SELECT DISTINCT c.id, c.code
  FROM mark m
    JOIN stock s ON s.mark_id = m.id AND s.quantity > 0
    JOIN place c ON c.id = s.place_id AND c.kind <> 'transit'
  WHERE m.product_id = ANY(${products.map(({ id }) => id)}) AND ${lots.length === 0}
    OR m.id = ANY(${lots.map(({ id }) => id)})
    OR m.lot_id = ANY(${lots.map(({ id }) => id)})
`;

const refused = (code: string, path: string, number: string, message: string): Problem =>
  new Problem(422, 'The count cannot be opened', [
    { code, path, ...(number ? { number } : {}), message }
  ]);
