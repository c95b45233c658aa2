import { judge, resultFault, type Result } from '../../core/quality/spec.ts';
import { numberKey, readNumber, shown } from '../../core/numbers/number.ts';
import { daysLater } from '../../core/calendar/day.ts';
import type { Actor } from '../kernel/actor.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import type { Sql } from '../kernel/db/client.ts';
import { amend } from '../stock/kinds.ts';
import { book } from '../ledger/book.ts';
import { requireRight } from '../kernel/rights.ts';
import { maySign } from '../people/may-sign.ts';
import { notFound, Problem, type FormError } from '../kernel/problem.ts';
import { quality } from './kinds.ts';

export interface GivenTest {
  product: string;
  lot?: string;
  serial?: string;
  takenAt?: string;
  instrument: string;
  sample: string;
  note: string;
  results: Result[];
}
export interface TestKept {
  id: number;
  fresh: boolean;
  /** What does not conform, in words. */ failed: string[];
  /** The event that held the mark by rule; null where nothing was held. */ heldBy: number | null;
  retest: string | null;
}

/**
 * Records a test of a lot or serial. What lies outside the product's limits may hold the mark at
 * once, by its spec; the next test becomes due by it.
 * @param key idempotency key: the same key keeps one test
 * @throws Problem 403, 404, 409 where the key was used for another mark, 422 with every result that
 * cannot be kept: a missing unit, no number, a characteristic the spec does not know
 */
export async function recordTest(
  sql: Sql,
  actor: Actor,
  key: string,
  given: GivenTest,
  now: Date
): Promise<TestKept> {
  requireRight(actor, 'test');
  const [product] = await sql<
    { code: string }[]
  >`SELECT code FROM product WHERE upper(code) = ${numberKey(given.product)}`;
  if (!product) notFound('product', given.product);
  const number = given.serial ?? given.lot ?? '';
  const id = readNumber(number).ok
    ? await findMarkId(
        sql,
        product.code,
        given.serial === undefined ? given.lot : undefined,
        given.serial
      )
    : null;
  if (id === null || number.trim() === '')
    throw new Problem(404, 'There is no such mark', [
      {
        code: 'mark.unknown',
        path: given.serial === undefined ? 'lot' : 'serial',
        number: shown(number),
        message: `There is no ${given.serial === undefined ? 'lot' : 'serial'} ${shown(number)} of ${product.code}. Check the number.`
      }
    ]);
  const specs = await readSpecs(sql, [product.code]);
  const spec = limitsFor(specs, product.code, null);
  // A characteristic that only a customer asks for may be tested too.
  const limits = [
    ...(spec?.limits ?? []),
    ...specs.filter((one) => one.partner !== null).flatMap((one) => one.spec.limits)
  ];
  const limitOf = (name: string) =>
    limits.find((limit) => numberKey(limit.name) === numberKey(name));
  const errors: FormError[] = [];
  given.results.forEach((result, index) => {
    const limit = limitOf(result.name);
    const why = !limit
      ? `The spec of ${product.code} has no ${shown(result.name)}. It has: ${[...new Set(limits.map((one) => one.name))].join(', ') || 'nothing yet'}.`
      : resultFault(limit, result);
    if (why)
      errors.push({
        code: 'mark.off-spec',
        path: `results[${index}]`,
        number: shown(result.name),
        message: why
      });
  });
  if (given.results.length === 0)
    errors.push({ code: 'fact.missing', path: 'results', message: 'Give at least one result.' });
  if (errors.length > 0)
    throw new Problem(422, 'The test cannot be kept like this', errors, 'Nothing was changed.');
  const [row] = await sql<{ id: number; mark_id: number; fresh: boolean }[]>`
    WITH made AS (
      INSERT INTO quality_test (
        mark_id, spec_id, taken_at, instrument, sample, note, results, tested_by, key
      )
      VALUES (
        ${id}, ${specs.find((one) => one.partner === null)?.id ?? null},
          ${given.takenAt ? new Date(given.takenAt) : now}, ${given.instrument}, ${given.sample},
          ${given.note}, ${sql.json(given.results as never)}, ${actor.personId}, ${key}
      )
      ON CONFLICT (tested_by, key) DO NOTHING
      RETURNING id, mark_id
    )
    SELECT id, mark_id, true AS fresh
    FROM made
    UNION ALL
    SELECT id, mark_id, false
    FROM quality_test
    WHERE tested_by = ${actor.personId} AND key = ${key}
    LIMIT 1
  `;
  if (row!.mark_id !== id)
    throw new Problem(409, 'This idempotency key was used for another test', [
      {
        code: 'key.used',
        path: 'Idempotency-Key',
        number: shown(key),
        message: 'Send each test under a key of its own.'
      }
    ]);
  const failed = (spec?.limits ?? []).flatMap((limit) => {
    const result = given.results.find((one) => numberKey(one.name) === numberKey(limit.name));
    const judged = result ? judge(limit, result) : null;
    return judged?.verdict === 'does not conform' ? [judged.why] : [];
  });
  const named = {
    product: product.code,
    ...(given.serial === undefined ? { lot: given.lot! } : { serial: given.serial })
  };
  let heldBy: number | null = null;
  if (failed.length > 0 && spec?.holdOnFail)
    heldBy = await holdByRule(
      sql,
      actor,
      row!.id,
      id,
      now,
      named,
      `Test ${row!.id}: ${failed.join('; ')}.`
    );
  const retest = spec?.retestDays
    ? daysLater(
        (given.takenAt ? new Date(given.takenAt) : now).toISOString().slice(0, 10),
        spec.retestDays
      )
    : null;
  if (retest !== null && row!.fresh)
    await book(sql, amend, { ...actor, roles: ['coordinator'] }, `test ${row!.id} retest`, {
      document: `T-${row!.id}`,
      at: now.toISOString(),
      reason: `Tested; due again after ${spec!.retestDays} days.`,
      lines: [{ ...named, to: { retest } }]
    }).catch(ignoreSame);
  return { id: row!.id, fresh: row!.fresh, failed, heldBy, retest };
}

/**
 * Holds the mark by the rule of its spec. The booking's key and document are made of the test, so
 * that a test sent again holds once.
 */
async function holdByRule(
  sql: Sql,
  actor: Actor,
  test: number,
  markId: number,
  now: Date,
  named: { product: string; lot?: string; serial?: string },
  reason: string
): Promise<number | null> {
  const key = `test ${test} hold`;
  const [before] = await sql<{ event: number }[]>`
    SELECT event_id AS event
    FROM booking_key
    WHERE person_id = ${actor.personId} AND key = ${key}
  `;
  if (before) return before.event;
  const [mark] = await sql<{ state: string }[]>`SELECT state FROM mark WHERE id = ${markId}`;
  // What is held or rejected already stays so.
  if (mark!.state !== 'usable') return null;
  const { answer } = await book(sql, quality, { ...actor, roles: ['quality'] }, key, {
    document: `T-${test}`,
    at: now.toISOString(),
    kind: 'hold',
    reason,
    marks: [named]
  });
  return (JSON.parse(answer) as { event: { id: number } }).event.id;
}

/** A mark that has this retest date already need not be amended; anything else is told. */
function ignoreSame(error: unknown): null {
  const same =
    error instanceof Problem &&
    error.status === 422 &&
    error.errors.every(({ code }) => code === 'quantity.mismatch');
  if (same) return null;
  throw error;
}

/** Signs a test off: by a second person, once. @throws Problem 403, 404, 409 */
export async function signTest(sql: Sql, actor: Actor, id: number): Promise<void> {
  requireRight(actor, 'test');
  await maySign(sql, actor);
  const [test] = await sql<{ tested_by: number; signed: boolean }[]>`
    SELECT t.tested_by, EXISTS (SELECT FROM test_signature s WHERE s.test_id = t.id) AS signed
    FROM quality_test t
    WHERE t.id = ${id}
  `;
  if (!test) notFound('test', String(id));
  if (test.signed)
    throw new Problem(409, 'The test is signed off already', [
      {
        code: 'key.used',
        path: 'id',
        number: String(id),
        message: `Test ${id} has been signed off.`
      }
    ]);
  if (test.tested_by === actor.personId)
    throw new Problem(403, 'A second person signs', [
      {
        code: 'right.missing',
        path: 'id',
        number: String(id),
        message: 'You made this test, so somebody else signs it off.'
      }
    ]);
  await sql`
    INSERT INTO test_signature (test_id, signed_by)
    VALUES (${id}, ${actor.personId})
    ON CONFLICT DO NOTHING
  `;
}
