import { requireOneRight, requireRight } from '../kernel/rights.ts';
import { createHash } from 'node:crypto';
import type { z } from 'zod';
import type { EventKind } from '../../core/ledger/event-kinds.ts';
import { type Right } from '../../core/people/rights.ts';
import { verdictOf, type Decision, type Rows, type Verdict } from '../../core/ledger/booking.ts';
import type { Fault } from '../../core/faults/fault.ts';
import { decideWith } from '../../core/ledger/decide-with.ts';
import type { Wants } from '../../core/ledger/request.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import { readNumber, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { draftNumbers } from '../../core/ledger/draft-numbers.ts';
import { within, type Sql, type Tx } from '../kernel/db/client.ts';
import { signatureAsked, signatureFault } from '../../core/ledger/tell-signature.ts';
import { signatureFor, type Signature } from '../../core/people/signing.ts';
import { readApproved } from '../people/approvals.ts';
import { keepSigned, readSignatures } from '../people/signatures.ts';
import { onOtherDrafts } from './drafts.ts';
import { answerMarks } from './answer-marks.ts';
import { readMarkRecords } from './mark-record.ts';
import { type MarkRecord } from '../../core/ledger/mark-record.ts';
import { letOthersIn } from '../kernel/let-others-in.ts';
import { Problem } from '../kernel/problem.ts';
import { readGone } from './read-gone.ts';
import { readSnapshot } from './read-snapshot.ts';
import { writeRows } from './write-rows.ts';

/** All that makes one kind of booking; the table of them is server/kinds.ts. */
export interface BookingKind<Request extends { document: string }> {
  /** Where it is sent: `receipts`. */
  path: string;
  /** What it does, for the API document. */
  summary: string;
  /** The form of its requests. */
  schema: z.ZodType<Request>;
  /** The rights some request of it may need, and the one that a request does need. */
  rights: readonly Right[];
  right: Right | ((request: Request) => Right);
  /** The kinds of event it writes, and the one of a request. */
  eventKinds: readonly EventKind[];
  eventKind: (request: Request) => EventKind;
  /** What else it takes, known only once it is read: one of these rights. */
  rightsThen?: (snapshot: Snapshot, request: Request) => readonly Right[];
  /** What is read for it; a decision finds nothing in its snapshot that is not said here. */
  wants: (request: Request) => Wants;
  decide: (snapshot: Snapshot, request: Request) => Decision;
  /** What is brought up to date before it is decided, outside of its transaction. */
  before?: (sql: Sql) => Promise<void>;
  /** What else changes with it, in the same transaction: promises that are kept. */
  after?: (tx: Tx, eventId: number, rows: Rows) => Promise<void>;
}

/** What every booking may say beside its own lines. */
export interface Circumstances {
  document: string;
  /** When it happened; now where it is not given. */
  at?: string;
  /** The other side's paper: a delivery note, a carrier's number. */
  reference?: string;
  reason?: string;
  /** What a second person gave for faults that wait for one. */
  approvals?: readonly string[];
  /** What whoever signs gave, where the plan asks for a signature. */
  signature?: string;
}

export interface BookedAnswer {
  event: { id: number; kind: string; document: string; bookedAt: string };
  marks: MarkRecord[];
  /** SSCCs of the cartons and pallets it made. */
  units?: string[];
}

const TRIES = 8;
/**
 * Serialization failure, deadlock, a unique key or a stock check that another booking got to first.
 */
const PASSING = new Set(['40001', '40P01', '23505', '23514']);

/**
 * Books one event: whole or not at all, once per idempotency key; within a transaction that is
 * given, as a part of it.
 * @param key the caller's idempotency key, at most 200 characters; the same key with the same
 * request answers the same again
 * @returns the answer as JSON text and whether it was booked now or before
 * @throws Problem 403 without the right, 409 where the key was used for another request, 422 with
 * all faults
 */
export async function book<Request extends Circumstances>(
  sql: Sql | Tx,
  kind: BookingKind<Request>,
  actor: Actor,
  key: string,
  request: Request
): Promise<{ answer: string; fresh: boolean }> {
  requireRight(actor, rightFor(kind, request));
  // The signature is not of it: a booking that was signed and is sent again is the same one.
  const hash = createHash('sha256')
    .update(kind.eventKind(request))
    .update(JSON.stringify({ ...request, signature: undefined }))
    .digest();
  if (!('savepoint' in sql)) await kind.before?.(sql);
  for (let attempt = 1; ; attempt++) {
    try {
      return await within(sql, async (tx) => {
        // Sent in one breath and worked off in this order: the key is looked up when its lock is
        // held. A booking's statements are the same every time, so they are planned once and not
        // anew for its values, a third of a millisecond each, while others wait for its locks.
        const beginning = tx`
          SELECT set_config('plan_cache_mode', 'force_generic_plan', true),
            pg_advisory_xact_lock(hashtextextended(${`${actor.personId} ${key}`}, 0))
        `.execute();
        beginning.catch(() => {});
        const [before] = await tx<{ answer: string; request_hash: Uint8Array }[]>`
          SELECT answer, request_hash
          FROM booking_key
          WHERE person_id = ${actor.personId} AND key = ${key}
        `;
        if (before) {
          if (Buffer.compare(before.request_hash, hash) !== 0)
            throw new Problem(409, 'This idempotency key was used for another booking', [
              {
                code: 'key.used',
                path: 'Idempotency-Key',
                number: shown(key),
                message:
                  'Send each booking under a key of its own; send the same key only with the very same booking.'
              }
            ]);
          return { answer: before.answer, fresh: false };
        }
        // The id of an event is its place in the ledger: of two that meet, whoever gets the stock
        // first has the earlier. A trace clears by it.
        let reserved = 0;
        const takeItsPlace = async (): Promise<void> => {
          const [row] = await tx<[{ id: number }]>`SELECT nextval('event_id_seq') AS id`;
          reserved = row.id;
        };
        const { decision, happenedAt, snapshot, signature } = await decideIn(
          tx,
          kind,
          actor,
          request,
          false,
          takeItsPlace
        );
        if (!decision.ok) throw refusal(decision.faults);
        const eventKind = kind.eventKind(request);
        const document = request.document.trim();
        const known =
          decision.rows.newUnits.length > 0 ? null : answerMarks(snapshot, decision.rows);
        const keep = (
          eventId: number,
          bookedAt: Date,
          marks: MarkRecord[],
          units: string[]
        ): Promise<string> =>
          keepAnswer(tx, actor, key, hash, {
            event: { id: eventId, kind: eventKind, document, bookedAt: bookedAt.toISOString() },
            marks,
            ...(units.length > 0 ? { units } : {})
          });
        const {
          eventId,
          bookedAt,
          units,
          with: [marks, kept]
        } = await writeRows(
          tx,
          {
            kind: eventKind,
            document,
            reference: request.reference?.trim() || null,
            happenedAt,
            bookedBy: actor.personId,
            tokenId: actor.tokenId ?? null,
            reason: request.reason?.trim() || null
          },
          decision.rows,
          reserved,
          // Where the answer is known it is kept while the movements are still being written.
          (id, ids, booked) =>
            Promise.all([
              known ?? readMarkRecords(tx, ids),
              known && booked.then((at) => keep(id, at, known, [])),
              kind.after?.(tx, id, decision.rows),
              signature && keepSigned(tx, signature, { event: id })
            ])
        );
        return { answer: kept ?? (await keep(eventId, bookedAt, marks, units)), fresh: true };
      });
    } catch (error) {
      const code = (error as { code?: string }).code ?? '';
      if (!PASSING.has(code) || attempt >= TRIES) throw error;
      // Another booking came first: look again at what there is now. The wait grows and is uneven
      // so that many do not meet again.
      await new Promise((go) => setTimeout(go, Math.random() * 15 * attempt));
    }
  }
}

/** Keeps the answer under the booking's key, and gives its text. */
async function keepAnswer(
  tx: Tx,
  actor: Actor,
  key: string,
  hash: Buffer,
  body: BookedAnswer
): Promise<string> {
  const answer = JSON.stringify(body);
  await tx`
    INSERT INTO booking_key (person_id, key, request_hash, event_id, answer)
    VALUES (${actor.personId}, ${key}, ${hash}, ${body.event.id}, ${answer})
  `.execute();
  return answer;
}

/**
 * The verdict on a sheet that is still being filled: every fault and note, nothing written.
 * @throws Problem 403 without the right
 */
export async function check<Request extends Circumstances>(
  sql: Sql,
  kind: BookingKind<Request>,
  actor: Actor,
  request: Request
): Promise<SheetVerdict> {
  requireRight(actor, rightFor(kind, request));
  await kind.before?.(sql);
  return (await sql.begin('READ ONLY', async (tx) => {
    // Asked for first and awaited last, so that it costs no round trip of its own.
    const drafts = onOtherDrafts(tx, actor.personId, () =>
      draftNumbers(
        kind
          .wants(request)
          .marks.flatMap(({ product, marks }) =>
            marks.map((mark) => ({ product, serial: mark.serial }))
          )
      )
    );
    // told where it is awaited; should deciding fail first, nobody waits for it
    drafts.catch(() => {});
    const { decision } = await decideIn(tx, kind, actor, request, true);
    return { ...verdictOf(decision), drafts: await drafts };
  })) as SheetVerdict;
}

const rightFor = <Request extends { document: string }>(
  kind: BookingKind<Request>,
  request: Request
): Right => (typeof kind.right === 'function' ? kind.right(request) : kind.right);

interface SheetVerdict extends Verdict {
  /** Numbers of the sheet that stand on somebody else's draft too, as `PRODUCT kind NUMBER`. */
  drafts: {
    number: string;
    who: string;
  }[];
}

interface Decided {
  decision: Decision;
  happenedAt: Date;
  snapshot: Snapshot;
  /** The signature it is booked with, to be tied to it. */
  signature: Signature | null;
}

async function decideIn<Request extends Circumstances>(
  tx: Tx,
  kind: BookingKind<Request>,
  actor: Actor,
  request: Request,
  onlyLooking = false,
  behindTheLock?: () => Promise<unknown>
): Promise<Decided> {
  const at = request.at === undefined ? null : new Date(request.at);
  const document = readNumber(request.document);
  const approved = await readApproved(tx, actor, request, !onlyLooking);
  const wants = kind.wants(request);
  const read = await readSnapshot(tx, wants, at, onlyLooking, behindTheLock);
  const snapshot =
    approved.length === 0 ? read : { ...read, granted: [...read.granted, ...approved] };
  const { happenedAt } = snapshot;
  const more = kind.rightsThen?.(snapshot, request) ?? [];
  if (more.length > 0) requireOneRight(actor, more);
  const given = await readSignatures(tx, actor, request, !onlyLooking);
  const others = (): Promise<void> | null => (namedIn(wants) > MANY ? letOthersIn() : null);
  await others();
  const first = decideWith(kind.decide, snapshot, request);
  await others();
  const before =
    first.ok || !wants.goneIfRefused
      ? first
      : decideWith(kind.decide, await whereTheyWent(tx, snapshot), request);
  const asked = before.ok ? signatureAsked(snapshot, kind.eventKind(request), before.rows) : null;
  const signature = asked && signatureFor(asked, given);
  const unsigned = asked && !signature ? signatureFault(asked, request.document.trim()) : null;
  const decision = unsigned === null ? before : withoutSignature(before, unsigned, onlyLooking);
  if (document.ok) return { decision, happenedAt, snapshot, signature };
  const fault: Fault = {
    code: 'number.malformed',
    path: 'document',
    number: shown(request.document),
    message: `Document ${shown(request.document)} cannot be used: ${document.why}.`
  };
  return {
    decision: {
      ok: false,
      faults: [fault, ...(decision.ok ? [] : decision.faults)],
      notes: decision.notes
    },
    happenedAt,
    snapshot,
    signature
  };
}

/** What one booking names before others are let in between reading, deciding and writing it. */
const MANY = 5_000;
const namedIn = ({ products, marks }: Wants): number =>
  marks.reduce((sum, one) => sum + one.marks.length, products.length);

/** The same with where its marks went that lie nowhere, so that a refusal can say it. */
const whereTheyWent = async (tx: Tx, snapshot: Snapshot): Promise<Snapshot> => ({
  ...snapshot,
  gone: await readGone(tx, snapshot.marksById.values(), snapshot.stock, snapshot.event)
});

/** A sheet that is still being filled is told; what is sent is refused. */
function withoutSignature(decision: Decision, fault: Fault, onlyLooking: boolean): Decision {
  if (!onlyLooking) return { ok: false, faults: [fault], notes: decision.notes };
  const { path, message } = fault;
  return { ...decision, notes: [...decision.notes, { path, message }] };
}

export function refusal(faults: readonly Fault[]): Problem {
  return new Problem(
    422,
    faults.length === 1
      ? 'Not booked: one thing is wrong'
      : `Not booked: ${faults.length} things are wrong`,
    faults,
    'Nothing was changed. Mend what is listed and send it again.'
  );
}
