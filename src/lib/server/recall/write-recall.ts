import { capital } from '../../core/capital.ts';
import { lockCase, log, refuse, stillOpen } from './case-row.ts';
import { hindrances } from '../../core/recall/reconcile.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { attemptSucceeded, mayAttempt, sayWait } from '../people/attempts.ts';
import { requireSignature } from '../people/require-signature.ts';
import { keepSigned } from '../people/signatures.ts';
import { maySign } from '../people/may-sign.ts';
import { passwordMatches } from '../people/password.ts';
import { requireRight } from '../kernel/rights.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { liveScope } from './live-scope.ts';
import { readRecall, type RecallPage } from './read-recall.ts';

export interface NewRecall {
  title: string;
  hazard: string;
  request: string;
  mock: boolean;
  targetMinutes?: number | null;
  /** Days without an answer after which a customer is reminded; null for never, by itself. */
  remindDays?: number | null;
  /** Ids of suspect lots and serials. */ marks: number[];
  why: string;
}
/** Who does not answer is reminded after these days, where nothing else is said. */
export const REMIND_DAYS = 3;

/**
 * Opens a recall or a drill with its suspects, once per key. @throws Problem 403, 422 where nothing
 * is suspected or a mark is not there
 */
export async function openRecall(
  sql: Sql,
  actor: Actor,
  key: string,
  given: NewRecall
): Promise<{ number: string }> {
  requireRight(actor, 'recall');
  return (await sql.begin(async (tx) => {
    await tx`
      SELECT pg_advisory_xact_lock(hashtextextended(${`recall ${actor.personId} ${key}`}, 0))
    `;
    const [before] = await tx<
      { number: string }[]
    >`SELECT number FROM recall_case WHERE opened_by = ${actor.personId} AND key = ${key}`;
    if (before) return before;
    const [row] = await tx<{ id: number; number: string }[]>`
      INSERT INTO recall_case (
        number, mock, title, hazard, request, target_minutes, remind_days, opened_by, key
      )
      VALUES (
        ${given.mock ? 'MR-' : 'RC-'} || lpad(nextval('recall_number_seq')::text, 4, '0'),
          ${given.mock}, ${given.title}, ${given.hazard}, ${given.request},
          ${given.mock ? (given.targetMinutes ?? 240) : null},
          ${given.remindDays === undefined && !given.mock ? REMIND_DAYS : (given.remindDays ?? null)},
          ${actor.personId}, ${key}
      )
      RETURNING id, number
    `;
    await addTo(tx, row!.id, given.marks, given.why);
    await log(
      tx,
      row!.id,
      actor,
      `${given.mock ? 'Drill' : 'Case'} opened with ${given.marks.length} ${given.marks.length === 1 ? 'suspect' : 'suspects'}.`
    );
    return { number: row!.number };
  })) as { number: string };
}

async function addTo(tx: Tx, caseId: number, marks: readonly number[], why: string): Promise<void> {
  if (marks.length === 0)
    refuse(
      422,
      'Nothing is suspected',
      'mark.missing',
      'Name the lots or serials the case is about.',
      'marks'
    );
  const known = await tx<
    { id: number }[]
  >`SELECT id FROM mark WHERE id = ANY(${marks as number[]})`;
  if (known.length < new Set(marks).size)
    refuse(
      422,
      'A suspect is not there',
      'mark.unknown',
      'One of the lots or serials does not exist. Look them up again.',
      'marks'
    );
  await tx`
    INSERT INTO recall_suspect (case_id, mark_id, why)
    SELECT ${caseId}::bigint, m, ${why}
    FROM unnest(${[...new Set(marks)]}::bigint[]) m
    ON CONFLICT DO NOTHING
  `;
}

/**
 * Adds suspects to an open case; a scope decided before is widened by deciding it again. @throws
 * Problem 403, 404, 409, 422
 */
export async function addSuspects(
  sql: Sql,
  actor: Actor,
  number: string,
  marks: readonly number[],
  why: string
): Promise<void> {
  requireRight(actor, 'recall');
  await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    await addTo(tx, row.id, marks, why);
    await log(
      tx,
      row.id,
      actor,
      `${marks.length} ${marks.length === 1 ? 'suspect' : 'suspects'} added${why ? `: ${why}` : ''}.`
    );
  });
}

/**
 * Takes in what time cleared, for safety: what was made, or left, before any of it came. Undone only
 * until the scope is decided, for what was decided is never narrowed.
 * @throws Problem 403, 404, 409
 */
export async function goBeyondTime(
  sql: Sql,
  actor: Actor,
  number: string,
  beyond: boolean
): Promise<void> {
  requireRight(actor, 'recall');
  await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    if (row.beyondTime === beyond) return;
    if (!beyond && row.decided)
      refuse(
        409,
        'The scope is decided',
        'request.malformed',
        'What was decided is not narrowed. It stays wider than the facts until the case is closed.',
        'beyond'
      );
    await tx`UPDATE recall_case SET beyond_time = ${beyond} WHERE id = ${row.id}`;
    await log(
      tx,
      row.id,
      actor,
      beyond
        ? 'Widened beyond time: what was made or left before any of it came is taken in.'
        : 'Not beyond time any more: only what can have some of it.'
    );
  });
}

/**
 * Says after how many days without an answer customers are reminded; null where they are reminded
 * by hand only. @throws Problem 403, 404, 409
 */
export async function remindAfter(
  sql: Sql,
  actor: Actor,
  number: string,
  days: number | null
): Promise<void> {
  requireRight(actor, 'recall');
  await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    await tx`UPDATE recall_case SET remind_days = ${days} WHERE id = ${row.id}`;
    const says =
      days === null
        ? 'Reminders go out by hand only.'
        : `Who does not answer is reminded after ${days} ${days === 1 ? 'day' : 'days'}.`;
    await log(tx, row.id, actor, says);
  });
}

/**
 * Decides the scope: freezes what customers have and what lies here as it is now. Deciding again
 * takes in what came since; what was in stays in.
 * @throws Problem 403, 404, 409, 422 where the plans of its suspects ask for a signature
 */
export async function decideScope(
  sql: Sql,
  actor: Actor,
  number: string,
  signature?: string
): Promise<{ customers: number; here: number }> {
  requireRight(actor, 'recall');
  return (await sql.begin('ISOLATION LEVEL REPEATABLE READ', async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    const suspects = (
      await tx<{ id: number }[]>`SELECT mark_id AS id FROM recall_suspect WHERE case_id = ${row.id}`
    ).map((one) => one.id);
    const signed = await requireSignature(tx, actor, {
      ...{ act: 'recall', marks: suspects, document: row.number, signature }
    });
    if (signed) await keepSigned(tx, signed, { case: row.id });
    const live = await liveScope(tx, suspects, row.beyondTime);
    const added = await tx`
      INSERT INTO recall_scope_customer (case_id, partner_id, mark_id, event_id, quantity)
      SELECT ${row.id}::bigint, *
      FROM unnest(
        ${live.customers.map((one) => one.partnerId)}::bigint[],
          ${live.customers.map((one) => one.mark)}::bigint[],
          ${live.customers.map((one) => one.event)}::bigint[],
          ${live.customers.map((one) => one.quantity)}::numeric[]
      )
      ON CONFLICT DO NOTHING
    `;
    await tx`
      INSERT INTO recall_scope_here (case_id, mark_id, place_id, quantity)
      SELECT ${row.id}::bigint, *
      FROM unnest(
        ${live.here.map((one) => one.mark)}::bigint[],
          ${live.here.map((one) => one.placeId)}::bigint[],
          ${live.here.map((one) => one.quantity)}::numeric[]
      )
      ON CONFLICT DO NOTHING
    `;
    await tx`
      UPDATE recall_case
      SET decided_at = coalesce(decided_at, clock_timestamp()),
        decided_by = coalesce(decided_by, ${actor.personId})
      WHERE id = ${row.id}
    `;
    await log(
      tx,
      row.id,
      actor,
      row.decided
        ? `Scope widened by ${added.count} ${added.count === 1 ? 'shipment' : 'shipments'}.`
        : `Scope decided: ${new Set(live.customers.map((one) => one.partner)).size} customers, ${new Set(live.here.map((one) => one.mark)).size} lots and serials here.`
    );
    return { customers: added.count, here: live.here.length };
  })) as { customers: number; here: number };
}

/**
 * Signs a case off, with the password again; by two different people. @throws Problem 403 for a
 * wrong password or a token, 404, 409
 */
export async function signRecall(
  sql: Sql,
  actor: Actor,
  number: string,
  password: string
): Promise<{ signatures: number }> {
  requireRight(actor, 'recall');
  await maySign(sql, actor);
  // As at sign-in, wrong passwords are counted, so that an open screen does not let somebody try
  // for ever.
  const [person] = await sql<{ login: string; password_hash: string | null }[]>`
    SELECT login, password_hash
    FROM person
    WHERE id = ${actor.personId}
  `;
  const may = await mayAttempt(sql, person!.login, 'signature');
  if (!may.ok)
    refuse(
      403,
      'Too many wrong passwords',
      'right.missing',
      `Try again ${sayWait(may.wait)}.`,
      'password'
    );
  const good = await passwordMatches(person!.password_hash, password.slice(0, 1000));
  await sql`
    INSERT INTO sign_in_attempt (login_key, address, succeeded)
    VALUES (${numberKey(person!.login)}, 'signature', ${good})
  `;
  if (good) await attemptSucceeded(sql, person!.login, 'signature');
  else
    refuse(
      403,
      'Wrong password',
      'right.missing',
      'That is not your password. Type it again.',
      'password'
    );
  return (await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    stillOpen(row);
    if (!row.decided)
      refuse(
        409,
        'The scope is not decided',
        'balance.open',
        'There is nothing to sign before the scope is decided.',
        'number'
      );
    const [mine] = await tx`
      INSERT INTO recall_signature (case_id, person_id)
      VALUES (${row.id}, ${actor.personId})
      ON CONFLICT DO NOTHING
      RETURNING person_id
    `;
    if (!mine)
      refuse(
        409,
        'You have signed already',
        'key.used',
        'You have signed this case. A second person signs beside you.',
        'number'
      );
    await log(tx, row.id, actor, 'Signed off.');
    const [count] = await tx<
      { n: number }[]
    >`SELECT count(*)::int AS n FROM recall_signature WHERE case_id = ${row.id}`;
    return { signatures: count!.n };
  })) as { signatures: number };
}

/**
 * Closes a case: where it reconciles and two have signed, or with a reason; two signatures are
 * needed either way. @throws Problem 403, 404, 409, 422 with what hinders it
 */
export async function closeRecall(
  sql: Sql,
  actor: Actor,
  number: string,
  reason: string | null,
  now: Date
): Promise<RecallPage> {
  requireRight(actor, 'recall');
  const page = (await readRecall(sql, number, now)) ?? notFound('recall', number);
  const open = hindrances(
    page.standing,
    page.change,
    {
      usable: new Set(page.here.filter((one) => one.standing === 'usable').map((one) => one.id))
        .size
    },
    page.signatures.length,
    page.mock
  );
  if (page.signatures.length < 2)
    throw new Problem(
      422,
      'The case cannot be closed',
      open.map((message) => ({
        code: 'balance.open',
        path: '',
        message: `${capital(message)}.`
      })),
      'Two people sign before a case is closed, with or without a reason.'
    );
  if (page.hindrances.length > 0 && !reason?.trim())
    throw new Problem(
      422,
      'The case does not reconcile',
      page.hindrances.map((message) => ({
        code: 'balance.open',
        path: 'reason',
        message: `${capital(message)}.`
      })),
      'Mend what is listed, or close it with a written reason.'
    );
  return await sql
    .begin(async (tx) => {
      const row = await lockCase(tx, number);
      stillOpen(row);
      if (!row.decided)
        refuse(
          409,
          'The scope is not decided',
          'balance.open',
          'Decide the scope first.',
          'number'
        );
      await tx`
        UPDATE recall_case
        SET closed_at = clock_timestamp(), closed_by = ${actor.personId},
          closing_reason = ${reason?.trim() || null}
        WHERE id = ${row.id}
      `;
      await log(
        tx,
        row.id,
        actor,
        reason?.trim() ? `Closed: ${reason.trim()}` : 'Closed: it reconciles.'
      );
    })
    .then(async () => (await readRecall(sql, number, now))!);
}

/** Names another case as related. @throws Problem 403, 404, 422 */
export async function relateRecall(
  sql: Sql,
  actor: Actor,
  number: string,
  other: string
): Promise<void> {
  requireRight(actor, 'recall');
  await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    const [found] = await tx<
      { id: number; number: string }[]
    >`SELECT id, number FROM recall_case WHERE upper(number) = ${numberKey(other)}`;
    if (!found || found.id === row.id)
      refuse(
        422,
        'No such case',
        'mark.unknown',
        `There is no other case ${shown(other)}. Check the number.`,
        'other'
      );
    await tx`
      INSERT INTO recall_related (case_id, other_id)
      VALUES (${row.id}, ${found!.id})
      ON CONFLICT DO NOTHING
    `;
    await log(tx, row.id, actor, `Related to ${found!.number}.`);
  });
}
