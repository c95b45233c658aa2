import { groupBy } from '../../core/group-by.ts';
import { inOrder } from '../../core/faults/in-order.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import {
  formatQuantity,
  parseQuantity,
  quantity,
  total,
  ZERO,
  type Quantity
} from '../../core/quantity/quantity.ts';
import type { Outcome } from '../../core/recall/standing.ts';
import type { Actor } from '../kernel/actor.ts';
import type { Sql, Tx } from '../kernel/db/client.ts';
import { Problem, type FormError } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { cameBack } from './came-back.ts';
import { keyUsed, lockCase, log, stillOpen } from './case-row.ts';

export interface GivenAnswer {
  partner: string;
  mark: number;
  outcome: Outcome;
  /** A decimal string; below zero it puts an earlier answer right. */
  quantity: string;
  note: string;
}

/** What a customer had of a mark by the scope, and what was answered of it before. */
interface Had {
  partnerId: number;
  partner: string;
  mark: number;
  number: string | null;
  had: Quantity;
  told: Quantity;
  /** Of it: what they say to have returned. */
  toldReturned: Quantity;
  /** What came back by bookings since, told or not. */
  back: Quantity;
}

/** The answers of one customer for one mark and outcome: a row to be kept. */
interface AnswerRow {
  partner: string;
  partnerId: number;
  mark: number;
  outcome: Outcome;
  quantity: Quantity;
  note: string;
  /** The last answer it was summed up from, for the path of a fault. */
  at: number;
}

/**
 * Keeps what customers answered, once per key; a wrong answer is put right by one of the opposite
 * amount.
 * @throws Problem 403, 404, 409, 422 with everything that does not fit the scope
 */
export async function recordAnswers(
  sql: Sql,
  actor: Actor,
  number: string,
  key: string,
  given: readonly GivenAnswer[]
): Promise<{ kept: number }> {
  requireRight(actor, 'recall');
  return (await sql.begin(async (tx) => {
    const row = await lockCase(tx, number);
    const scope = await readHad(tx, row.id);
    const before = await keptBefore(tx, actor, key);
    const wrong = given.map((one, index) => faultOf(one, `answers[${index}]`, scope));
    const rows = sumUp(given, wrong, scope);
    if (before !== null) return sameAgain(before, row.id, rows, given.length, key);
    stillOpen(row);
    const errors = inOrder([...wrong.filter((one) => one !== null), ...balanceFaults(rows, scope)]);
    if (given.length === 0) errors.push(NOTHING_GIVEN);
    if (errors.length > 0)
      throw new Problem(
        422,
        'The answers cannot be kept like this',
        errors,
        'Nothing was changed.'
      );
    await write(tx, row.id, actor, key, rows);
    const partners = [...new Set(rows.map((one) => one.partner))].join(', ');
    const answers = `${given.length} ${given.length === 1 ? 'answer' : 'answers'}`;
    await log(tx, row.id, actor, `${answers} of ${partners}.`);
    return { kept: given.length };
  })) as { kept: number };
}

const keyOf = (partner: string, mark: number): string => `${numberKey(partner)} ${mark}`;

type Amount = 'had' | 'told' | 'toldReturned' | 'back';
type HadRow = Omit<Had, Amount> & Record<Amount, string>;

async function readHad(tx: Tx, caseId: number): Promise<Map<string, Had>> {
  const rows = await tx<HadRow[]>`
    SELECT t.code AS partner, t.id AS "partnerId", s.mark_id AS mark, m.number,
      sum(s.quantity) AS had, coalesce(max(a.told), 0) AS told,
      coalesce(max(a.returned), 0) AS "toldReturned",
      sum(${cameBack(tx)}) AS back
    FROM recall_scope_customer s
      JOIN partner t ON t.id = s.partner_id
      JOIN mark m ON m.id = s.mark_id
      LEFT JOIN LATERAL (
        SELECT sum(quantity) AS told,
          sum(quantity) FILTER (WHERE outcome = 'returned') AS returned
        FROM recall_answer
        WHERE case_id = s.case_id AND partner_id = t.id AND mark_id = s.mark_id
      ) a ON true
    WHERE s.case_id = ${caseId}
    GROUP BY s.case_id, t.id, s.mark_id, m.number
  `;
  return new Map(
    rows.map((row) => [
      keyOf(row.partner, row.mark),
      {
        ...row,
        had: quantity(row.had),
        told: quantity(row.told),
        toldReturned: quantity(row.toldReturned),
        back: quantity(row.back)
      }
    ])
  );
}

const NOTHING_GIVEN: FormError = {
  code: 'mark.missing',
  path: 'answers',
  message: 'Give at least one answer.'
};

/** What is wrong with an answer by itself; null where nothing is. */
function faultOf(
  one: GivenAnswer,
  path: string,
  scope: ReadonlyMap<string, Had>
): FormError | null {
  const found = scope.get(keyOf(one.partner, one.mark));
  if (!found)
    return {
      code: 'mark.unknown',
      path,
      number: String(one.mark),
      message: `${shown(one.partner)} had nothing of that in the scope. Check customer and number.`
    };
  const number = found.number ?? '';
  const amount = parseQuantity(one.quantity);
  if (!amount || amount.isZero())
    return {
      code: 'quantity.mismatch',
      path,
      number,
      message: `“${shown(one.quantity)}” is no quantity.`
    };
  if (one.outcome === 'written off' && !one.note.trim())
    return {
      code: 'fact.missing',
      path,
      number,
      message: 'What is written off needs a word on why: not found, used up, no answer.'
    };
  return null;
}

/** One row for each customer, mark and outcome; an answer that is wrong by itself is in none. */
function sumUp(
  given: readonly GivenAnswer[],
  wrong: readonly (FormError | null)[],
  scope: ReadonlyMap<string, Had>
): AnswerRow[] {
  const placed = given.map((one, at) => ({ ...one, at }));
  const right = placed.filter((one) => wrong[one.at] === null);
  const groups = groupBy(right, (one) => `${keyOf(one.partner, one.mark)} ${one.outcome}`);
  return [...groups.values()].map((answers) => {
    const { partner, mark, outcome } = answers[0]!;
    const { partnerId } = scope.get(keyOf(partner, mark))!;
    const amounts = answers.map((one) => quantity(one.quantity));
    const notes = new Set(answers.map((one) => one.note.trim()).filter(Boolean));
    return {
      partner,
      partnerId,
      mark,
      outcome,
      quantity: total(amounts),
      note: [...notes].join(' ').slice(0, 2000),
      at: answers.at(-1)!.at
    };
  });
}

/** Nobody accounts for more than they had, nor for less than nothing. */
function balanceFaults(rows: readonly AnswerRow[], scope: ReadonlyMap<string, Had>): FormError[] {
  const cancelled = rows.filter((row) => row.quantity.isZero());
  if (cancelled.length > 0)
    return cancelled.map(({ partner, mark, outcome, at }) => ({
      code: 'quantity.mismatch',
      path: `answers[${at}]`,
      number: scope.get(keyOf(partner, mark))!.number ?? '',
      message: `What ${partner} answers as ${outcome} adds up to nothing. Leave it out.`
    }));
  const byMark = groupBy(rows, (row) => keyOf(row.partner, row.mark));
  return [...byMark].flatMap(([key, answers]) => {
    const { partner, number, had, told, back, toldReturned } = scope.get(key)!;
    const toldNow = told.plus(total(answers.map((row) => row.quantity)));
    // What came back without having been told counts as well.
    const returned = toldReturned.plus(total(returnsOf(answers)));
    const after = toldNow.plus(back.gt(returned) ? back.minus(returned) : ZERO);
    if (after.lte(had) && toldNow.gte(0)) return [];
    const what = number ?? 'it';
    const came = back.gt(returned) ? `, ${formatQuantity(back)} of it back here` : '';
    const mend = after.gt(had) ? 'Take some off.' : 'Take back less.';
    return {
      code: 'quantity.mismatch',
      path: `answers[${answers.at(-1)!.at}]`,
      number: number ?? '',
      message: `${partner} had ${formatQuantity(had)} of ${what}, and this would account for ${formatQuantity(after)}${came}. ${mend}`
    };
  });
}

const returnsOf = (answers: readonly AnswerRow[]): Quantity[] =>
  answers.filter((row) => row.outcome === 'returned').map((row) => row.quantity);

interface KeptAnswer {
  caseId: number;
  partnerId: number;
  mark: number;
  outcome: string;
  quantity: string;
}

/** The rows this key kept before; null where it is new. */
async function keptBefore(tx: Tx, actor: Actor, key: string): Promise<KeptAnswer[] | null> {
  const rows = await tx<KeptAnswer[]>`
    SELECT case_id AS "caseId", partner_id AS "partnerId", mark_id AS mark, outcome, quantity
    FROM recall_answer
    WHERE told_by = ${actor.personId} AND key = ${key}
  `;
  return rows.length === 0 ? null : [...rows];
}

/** @throws Problem 409 where the key kept something else */
function sameAgain(
  before: readonly KeptAnswer[],
  caseId: number,
  rows: readonly AnswerRow[],
  given: number,
  key: string
): { kept: number } {
  const say = (of: { partnerId: number; mark: number; outcome: string }, amount: Quantity) =>
    `${of.partnerId} ${of.mark} ${of.outcome} ${formatQuantity(amount)}`;
  const kept = before.map((row) => say(row, quantity(row.quantity))).sort();
  const asked = rows.map((row) => say(row, row.quantity)).sort();
  const same = before[0]!.caseId === caseId && kept.join() === asked.join();
  return same ? { kept: given } : keyUsed(key);
}

async function write(
  tx: Tx,
  caseId: number,
  actor: Actor,
  key: string,
  rows: readonly AnswerRow[]
): Promise<void> {
  await tx`
    INSERT INTO recall_answer (case_id, partner_id, mark_id, outcome, quantity, note, key, told_by)
    SELECT ${caseId}::bigint, p, m, o, q, n, ${key}, ${actor.personId}::bigint
    FROM unnest(
      ${rows.map((row) => row.partnerId)}::bigint[], ${rows.map((row) => row.mark)}::bigint[],
        ${rows.map((row) => row.outcome)}::text[],
        ${rows.map((row) => formatQuantity(row.quantity))}::numeric[],
        ${rows.map((row) => row.note)}::text[]
    ) AS t (p, m, o, q, n)
  `;
}
