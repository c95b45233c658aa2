import type { z } from 'zod';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Warranty } from '../../core/service/warranty.ts';
import type { Actor } from '../kernel/actor.ts';
import { today } from '../kernel/clock.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { notFound, Problem } from '../kernel/problem.ts';
import { requireRight } from '../kernel/rights.ts';
import { book } from '../ledger/book.ts';
import { findMarkId } from '../ledger/find-mark.ts';
import { readJobRow } from './job-row.ts';
import { leavesOnClaim } from './kinds.ts';
import type { ClaimAnswers, NewClaimPart } from './schemas.ts';
import { readWarranties } from './warranties.ts';

const wrong = (path: string, code: string, number: string, message: string, status = 422) =>
  new Problem(status, 'The claim cannot be kept like this', [
    { code, path, number: shown(number), message }
  ]);

/**
 * Puts a part into the claim that is collected for its supplier.
 * @param number the job it came out on
 * @returns the claim’s number; sent again under its key it is the same
 * @throws Problem 403, 404, 409 where it is claimed already, 422 where it is not theirs, or their
 * warranty is over
 */
export async function claimPart(
  sql: Sql,
  actor: Actor,
  key: string,
  number: string,
  given: z.infer<typeof NewClaimPart>
): Promise<{ number: string; fresh: boolean }> {
  requireRight(actor, 'service');
  return within(sql, async (tx) => {
    const before = await keptBefore(tx, actor, key);
    if (before) return { number: before, fresh: false };
    const job = await readJobRow(tx, number);
    const mark = await findPart(tx, given);
    const [supplier] = await tx<{ id: number; name: string }[]>`
      SELECT id, name FROM partner WHERE upper(code) = ${numberKey(given.supplier)}
    `;
    if (!supplier) {
      const message = `There is no partner ${shown(given.supplier)}. Check the code.`;
      throw wrong('supplier', 'partner.unknown', given.supplier, message);
    }
    await mustBeUnclaimed(tx, mark, given);
    const receipt = await mustBeTheirs(tx, mark, given, supplier.name);
    const claim = await collecting(tx, actor, supplier.id);
    await tx`
      INSERT INTO claim_part ${tx({
        claim_id: claim.id,
        mark_id: mark,
        job_id: job.id,
        receipt_id: receipt.event,
        warranty_until: receipt.until,
        goodwill: given.goodwill,
        reason: given.reason,
        added_by: actor.personId,
        key
      })}
    `;
    return { number: claim.number, fresh: true };
  });
}

async function keptBefore(tx: Tx, actor: Actor, key: string): Promise<string | null> {
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`claim ${actor.personId} ${key}`}, 0))`;
  const [before] = await tx<{ number: string }[]>`
    SELECT c.number
    FROM claim_part x
      JOIN claim c ON c.id = x.claim_id
    WHERE x.added_by = ${actor.personId} AND x.key = ${key}
  `;
  return before?.number ?? null;
}

async function findPart(
  tx: Tx,
  { product, serial }: Pick<z.infer<typeof NewClaimPart>, 'product' | 'serial'>
): Promise<number> {
  const mark = await findMarkId(tx, product, undefined, serial);
  if (mark !== null) return mark;
  const message = `There is no serial ${shown(serial)} of ${shown(product)}. Check the number on the part.`;
  throw wrong('serial', 'mark.unknown', serial, message);
}

async function mustBeUnclaimed(
  tx: Tx,
  mark: number,
  { serial }: z.infer<typeof NewClaimPart>
): Promise<void> {
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`claim of ${mark}`}, 0))`;
  const [before] = await tx<{ number: string }[]>`
    SELECT c.number
    FROM claim_part x
      JOIN claim c ON c.id = x.claim_id
    WHERE x.mark_id = ${mark}
  `;
  if (!before) return;
  const message = `${shown(serial)} stands in claim ${before.number} already.`;
  throw wrong('serial', 'claim.twice', serial, message, 409);
}

/** What a supplier owes for comes from them, and within their warranty unless it is asked as a favour. */
async function mustBeTheirs(
  tx: Tx,
  mark: number,
  { supplier: code, serial, goodwill }: z.infer<typeof NewClaimPart>,
  name: string
): Promise<{ event: number; until: string | null }> {
  const supplier = (await readWarranties(tx, [mark], today())).get(mark)?.supplier ?? null;
  if (!supplier || numberKey(supplier.partner) !== numberKey(code)) {
    const from = supplier
      ? `it came from ${supplier.name}, ${supplier.document}`
      : 'nobody sent it';
    const message = `${shown(serial)} was not received from ${name}: ${from}.`;
    throw wrong('supplier', 'partner.unknown', code, message);
  }
  if (supplier.state !== 'running' && !goodwill) {
    const message = `${sayNotRunning(supplier, name, shown(serial))} Claim it as goodwill, or leave it.`;
    throw wrong('serial', 'warranty.over', serial, message);
  }
  return { event: supplier.receipt, until: supplier.state === 'none' ? null : supplier.until };
}

const sayNotRunning = (warranty: Warranty, name: string, serial: string): string =>
  warranty.state === 'over'
    ? `The warranty of ${name} on ${serial} ended on ${warranty.until}.`
    : `${name} gave no warranty on ${serial} that is known here.`;

/** The claim that is collected for a supplier, or a new one. */
async function collecting(
  tx: Tx,
  actor: Actor,
  supplier: number
): Promise<{ id: number; number: string }> {
  await tx`SELECT pg_advisory_xact_lock(hashtextextended(${`claims on ${supplier}`}, 0))`;
  const [open] = await tx<{ id: number; number: string }[]>`
    SELECT id, number FROM claim WHERE supplier_id = ${supplier} AND sent_at IS NULL
  `;
  if (open) return open;
  const [made] = await tx<[{ id: number; number: string }]>`
    INSERT INTO claim (number, supplier_id, opened_by)
    SELECT 'CL-' || lpad(nextval('claim_count')::text, 4, '0'), ${supplier}, ${actor.personId}
    RETURNING id, number
  `;
  return made;
}

/**
 * Sends a claim: its parts leave for their supplier from where they lie.
 * @throws Problem 403, 404, 409 where it was sent before
 */
export async function sendClaim(
  sql: Sql,
  actor: Actor,
  number: string,
  reference: string
): Promise<void> {
  requireRight(actor, 'service');
  await within(sql, async (tx) => {
    const [claim] = await tx<{ id: number; number: string; supplier: string }[]>`
      UPDATE claim c
      SET sent_at = clock_timestamp(), sent_by = ${actor.personId}, reference = ${reference}
      FROM partner t
      WHERE upper(c.number) = ${numberKey(number)}
        AND c.sent_at IS NULL
        AND t.id = c.supplier_id
      RETURNING c.id, c.number, t.code AS supplier
    `;
    if (!claim) {
      await claimId(tx, number);
      throw wrong('number', 'claim.sent', number, `${shown(number)} was sent already.`, 409);
    }
    const parts = await partsHere(tx, claim.id);
    if (parts.length === 0) return;
    const { number: document, supplier } = claim;
    await book(tx, leavesOnClaim, actor, `claim ${document}`, { document, supplier, parts });
  });
}

/** Parts of a claim that lie here; some may be in a unit, or gone. */
const partsHere = (tx: Tx, claim: number): Promise<{ product: string; serial: string }[]> => tx<
  { product: string; serial: string }[]
>`
  SELECT p.code AS product, m.number AS serial
  FROM claim_part x
    JOIN mark m ON m.id = x.mark_id
    JOIN product p ON p.id = m.product_id
  WHERE x.claim_id = ${claim}
    AND EXISTS (SELECT FROM stock s WHERE s.mark_id = m.id AND s.quantity > 0)
  ORDER BY x.id
`;

async function claimId(db: Sql | Tx, number: string): Promise<{ id: number; sent: boolean }> {
  const [claim] = await db<{ id: number; sent: boolean }[]>`
    SELECT id, sent_at IS NOT NULL AS sent FROM claim WHERE upper(number) = ${numberKey(number)}
  `;
  return claim ?? notFound('claim', number);
}

/**
 * Keeps what the supplier answered, part by part; an answer may be corrected.
 * @throws Problem 403, 404, 422 where it was not sent yet, or a part is not in it
 */
export async function answerClaim(
  sql: Sql,
  actor: Actor,
  number: string,
  { parts, reference }: ClaimAnswers
): Promise<void> {
  requireRight(actor, 'service');
  await within(sql, async (tx) => {
    const claim = await claimId(tx, number);
    if (!claim.sent)
      throw wrong(
        'number',
        'claim.sent',
        number,
        `${shown(number)} was not sent yet. Send it first.`
      );
    if (reference !== undefined)
      await tx`UPDATE claim SET reference = ${reference} WHERE id = ${claim.id}`;
    for (const [at, told] of parts.entries()) {
      const mark = await findPart(tx, told);
      const [answered] = await tx`
        UPDATE claim_part
        SET outcome = ${told.outcome}, outcome_note = ${told.note},
          replaced_by = ${told.replacedBy ?? null}, answered_at = clock_timestamp(),
          answered_by = ${actor.personId}
        WHERE claim_id = ${claim.id} AND mark_id = ${mark}
        RETURNING id
      `;
      if (answered) continue;
      const message = `${shown(told.serial)} does not stand in ${shown(number)}.`;
      throw wrong(`parts[${at}]`, 'mark.unknown', told.serial, message);
    }
  });
}
