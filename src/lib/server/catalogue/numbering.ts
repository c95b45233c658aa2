import type { z } from 'zod';
import { numberKey, shown } from '../../core/numbers/number.ts';
import {
  makeNumber,
  periodOf,
  schemeFaults,
  shiftOf,
  type Occasion,
  type Scheme
} from '../../core/numbers/scheme.ts';
import { dayOf, HOME_ZONE } from '../../core/calendar/day.ts';
import type { Actor } from '../kernel/actor.ts';
import type { NumberingScheme, NumbersWanted } from './schemas.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { within, type Db, type Sql, type Tx } from '../kernel/db/client.ts';
import { cleanCode } from '../kernel/code.ts';
import { countFrom } from './count-from.ts';
import { presentPlan } from './present-plan.ts';

export interface SchemeRecord extends Scheme {
  code: string;
  name: string;
  /** Products that use it. */ products: string[];
  /** The last count given in its present period. */ last: number;
}

/** All schemes with what uses them and how far each has counted in the period of a day. */
export async function readSchemes(db: Db, day: string): Promise<SchemeRecord[]> {
  const rows = await db<(Omit<SchemeRecord, 'last'> & { id: number })[]>`
    SELECT s.id, s.code, s.name, s.segments, s.reset,
      ARRAY(
        SELECT p.code::text
        FROM product p
        WHERE s.id IN (${schemeOf(db, 'lot')}, ${schemeOf(db, 'serial')})
        ORDER BY p.code
      ) AS products
    FROM numbering_scheme s
    ORDER BY s.code
  `;
  const counters = await db<
    { scheme_id: number; period: string; last: number }[]
  >`SELECT scheme_id, period, last FROM numbering_counter`;
  return rows.map(({ id, ...row }) => ({
    ...row,
    last:
      counters.find(
        (counter) => counter.scheme_id === id && counter.period === periodOf(row.reset, day)
      )?.last ?? 0
  }));
}

type Changeable = Pick<SchemeRecord, 'code' | 'name' | 'segments' | 'reset'>;

/** What of a scheme is changed together: how far it has counted is not. */
export const changeableScheme = ({ code, name, segments, reset }: Changeable): object => ({
  ...{ code, name, segments, reset }
});

/** The same of a scheme by its code; null where there is none. */
export async function readChangeableScheme(db: Db, code: string): Promise<object | null> {
  const [scheme] = await db<Changeable[]>`
    SELECT code, name, segments, reset FROM numbering_scheme WHERE upper(code) = ${numberKey(code)}
  `;
  return scheme ? changeableScheme(scheme) : null;
}

/**
 * Sets a scheme up or changes it; the counter goes on where it was, or at the count that is named.
 * @throws Problem 422 naming what is wrong
 */
export async function putScheme(
  sql: Sql | Tx,
  pathCode: string,
  given: z.infer<typeof NumberingScheme>
): Promise<{ created: boolean }> {
  const code = cleanCode(pathCode, 'numbering scheme');
  const scheme: Scheme = { segments: given.segments, reset: given.reset };
  const faults = schemeFaults(scheme);
  const trial = makeNumber(
    scheme,
    { site: 'QW', product: 'PRODUCT', day: '2026-01-01', shift: 'A' },
    1
  );
  if (faults.length === 0 && !trial.ok) faults.push(`No number can be made: ${trial.why}.`);
  if (faults.length > 0)
    throw new Problem(
      422,
      'The scheme cannot be kept like this',
      faults.map((message) => ({ code: 'number.malformed', path: 'segments', message }))
    );
  return await within(sql, async (tx) => {
    const [row] = await tx<{ created: boolean }[]>`
      INSERT INTO numbering_scheme (code, name, segments, reset)
      VALUES (${code}, ${given.name}, ${tx.json(given.segments as never)}, ${given.reset})
      ON CONFLICT (upper(code)) DO UPDATE SET name = excluded.name, segments = excluded.segments,
        reset = excluded.reset
      RETURNING (xmax = 0) AS created
    `;
    if (given.next !== undefined) await countFrom(tx, code, given.reset, given.next);
    return { created: row!.created };
  });
}

/**
 * Allots a block of new numbers of a product: each is given once and never again, whoever else asks
 * at the same moment.
 * Numbers that exist already (typed by hand, or announced by a supplier) are skipped.
 * @param key idempotency key: the same key gives the same block
 * @throws Problem 404, 409 where the key was used for another block, 422 where the product has no
 * scheme or its counter is full
 */
export async function allotNumbers(
  sql: Sql | Tx,
  actor: Actor,
  key: string,
  wanted: z.infer<typeof NumbersWanted>,
  now: Date
): Promise<{ numbers: string[]; fresh: boolean }> {
  return await within(sql, async (tx) => {
    await tx`
      SELECT pg_advisory_xact_lock(hashtextextended(${`numbers ${actor.personId} ${key}`}, 0))
    `;
    const [product] = await tx<
      {
        id: number;
        code: string;
        marking: string;
        scheme: number | null;
        segments: Scheme['segments'];
        reset: Scheme['reset'];
      }[]
    >`
      SELECT p.id, p.code, p.marking, s.id AS scheme, s.segments, s.reset
      FROM product p
        LEFT JOIN numbering_scheme s ON s.id = ${schemeOf(tx, wanted.kind)}
      WHERE upper(p.code) = ${numberKey(wanted.product)}
    `;
    if (!product) notFound('product', wanted.product);
    const [before] = await tx<{ numbers: string[]; product_id: number; kind: string }[]>`
      SELECT numbers, product_id, kind
      FROM number_block
      WHERE person_id = ${actor.personId} AND key = ${key}
    `;
    if (before) {
      if (
        before.product_id !== product.id ||
        before.kind !== wanted.kind ||
        before.numbers.length !== wanted.count
      )
        throw new Problem(409, 'This idempotency key was used for another block', [
          {
            code: 'key.used',
            path: 'Idempotency-Key',
            number: shown(key),
            message: 'Ask for each block under a key of its own.'
          }
        ]);
      return { numbers: before.numbers, fresh: false };
    }
    if (product.scheme === null)
      throw new Problem(422, 'The product has no numbering scheme', [
        {
          code: 'mark.missing',
          path: 'product',
          number: product.code,
          message: `${product.code} has no numbering scheme for its ${wanted.kind}s. Name one in Setup, or type the numbers.`
        }
      ]);
    const numbers = await nextNumbers(
      tx,
      { id: product.scheme, segments: product.segments, reset: product.reset },
      product,
      wanted,
      await occasionAt(tx, wanted.place, product.code, now)
    );
    await tx`
      INSERT INTO number_block (scheme_id, product_id, kind, numbers, person_id, key)
      VALUES (
        ${product.scheme}, ${product.id}, ${wanted.kind}, ${numbers}, ${actor.personId}, ${key}
      )
    `;
    return { numbers, fresh: true };
  });
}

/**
 * The id of the scheme a product's (alias p) lots or serials are numbered by: its own, or that of
 * its plan.
 */
export const schemeOf = (db: Db, kind: 'lot' | 'serial') => db`
  coalesce(
    ${kind === 'lot' ? db`p.lot_scheme_id` : db`p.serial_scheme_id`},
      (
        SELECT n.id
        FROM numbering_scheme n
        WHERE upper(n.code) = upper(
          ${presentPlan(db)} ->> ${kind === 'lot' ? 'lotScheme' : 'serialScheme'}::text
        )
      )
  )
`;

/** Site, day and shift at a place; the first site where none is named. */
async function occasionAt(
  tx: Tx,
  place: string | undefined,
  product: string,
  now: Date
): Promise<Occasion> {
  const [site] = await tx<{ code: string; zone: string }[]>`
    SELECT s.code, s.zone
    FROM site s
      LEFT JOIN place p ON p.site_id = s.id AND upper(p.code) = ${numberKey(place ?? '')}
    ORDER BY p.id NULLS LAST, s.id
    LIMIT 1
  `;
  const zone = site?.zone ?? HOME_ZONE;
  const hour = Number(
    new Intl.DateTimeFormat('en-GB', { timeZone: zone, hour: '2-digit', hourCycle: 'h23' }).format(
      now
    )
  );
  return { site: site?.code ?? '', product, day: dayOf(now, zone), shift: shiftOf(hour) };
}

async function nextNumbers(
  tx: Tx,
  scheme: Scheme & { id: number },
  product: { id: number; code: string },
  { kind, count }: { kind: 'lot' | 'serial'; count: number },
  occasion: Occasion
): Promise<string[]> {
  const numbers: string[] = [];
  while (numbers.length < count) {
    const open = count - numbers.length;
    // The counter's row is locked until commit: two blocks asked for at once follow each other and
    // never overlap.
    const [row] = await tx<{ last: number }[]>`
      INSERT INTO numbering_counter AS c (scheme_id, period, last)
      VALUES (${scheme.id}, ${periodOf(scheme.reset, occasion.day)}, ${open})
      ON CONFLICT (scheme_id, period) DO UPDATE SET last = c.last + ${open}
      RETURNING last
    `;
    const made = Array.from({ length: open }, (_, index) => {
      const number = makeNumber(scheme, occasion, row!.last - open + index + 1);
      if (!number.ok)
        throw new Problem(422, 'No more numbers can be made', [
          {
            code: 'number.malformed',
            path: 'count',
            number: product.code,
            message: `The next number of ${product.code} cannot be made: ${number.why}.`
          }
        ]);
      return number.number;
    });
    const taken = new Set(
      (
        await tx<{ number_key: string }[]>`
          SELECT number_key
          FROM mark
          WHERE product_id = ${product.id}
            AND kind = ${kind}
            AND number_key = ANY(${made.map(numberKey)})
          UNION ALL
          SELECT number_key
          FROM planned_output
          WHERE product_id = ${product.id} AND number_key = ANY(${made.map(numberKey)})
        `
      ).map((found) => found.number_key)
    );
    numbers.push(...made.filter((number) => !taken.has(numberKey(number))));
  }
  return numbers;
}
