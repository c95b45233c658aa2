import { checkDigit } from '../../core/gs1/check-digit.ts';
import { epcOf, readIdentifier, type NamedMark } from '../../core/exchange/identifiers.ts';
import { readDocument, type DocumentReading } from '../../core/exchange/read.ts';
import type { EpcisEvent } from '../../core/exchange/write.ts';
import { numberKey, shown } from '../../core/numbers/number.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import { Problem } from '../kernel/problem.ts';
import type { Db, Sql, Tx } from '../kernel/db/client.ts';
import { ownBase } from '../kernel/own-base.ts';
import { parseJson } from '../kernel/parse-json.ts';
import { eventHash } from './event-hash.ts';

export interface Captured {
  events: number;
  fresh: number;
  /** Sent before: nothing was changed by them. */ known: number;
  /**
   * Identifiers that are of no product or number of ours; kept all the same, as other firms' goods
   * are.
   */
  foreign: string[];
}

/** Captures a document from its JSON text. @throws Problem as `captureEvents`; 400 where it is no JSON */
export const captureText = (sql: Sql, actor: Actor, text: string): Promise<Captured> =>
  captureEvents(sql, actor, parseJson(text));

/**
 * Keeps the events of another firm, each once however often it is sent. They are no bookings of
 * ours: stock does not change by them, but a trace goes on through them. An event's own id is its
 * sender's: what another says under it is another event.
 * @throws Problem 403, 409 where a sender says something else under an id than before, 422 with
 * everything that is wrong with the document, by its path; then nothing of it is kept
 */
export async function captureEvents(sql: Sql, actor: Actor, value: unknown): Promise<Captured> {
  requireRight(actor, 'capture');
  const reading = readDocument(value);
  if (!reading.ok)
    throw new Problem(
      422,
      'The document cannot be captured',
      reading.faults.map((fault) => ({ code: 'request.malformed', ...fault })),
      'Nothing of it was kept. Mend what is listed and send it again.'
    );
  const { events, context, sender } = reading;
  const hashes = events.map((one) => one.id ?? eventHash(one.event, context));
  return (await sql.begin(async (tx) => {
    const kept = await tx<{ id: number; event_hash: string }[]>`
      INSERT INTO foreign_event (
        event_hash, event_id, type, event_time, biz_step, action, read_point, biz_location, body,
          sender, captured_by
      )
      SELECT h, i, t, w::timestamptz, b, a, r, l, j::jsonb, ${sender}, ${actor.personId}::bigint
      FROM unnest(
        ${hashes}::text[], ${events.map((one) => one.id)}::text[],
          ${events.map((one) => one.type)}::text[], ${events.map((one) => one.at)}::text[],
          ${events.map((one) => one.bizStep)}::text[], ${events.map((one) => one.action)}::text[],
          ${events.map((one) => one.readPoint)}::text[],
          ${events.map((one) => one.bizLocation)}::text[],
          ${events.map((one) => JSON.stringify(one.event))}::text[]
      ) AS x (h, i, t, w, b, a, r, l, j)
      ON CONFLICT DO NOTHING
      RETURNING id, event_hash
    `;
    if (kept.length < events.length) await sameAsKept(tx, reading);
    const idOf = new Map(kept.map((row) => [row.event_hash, row.id]));
    const rows = events.flatMap((one, index) => {
      const id = idOf.get(hashes[index]!);
      if (id === undefined) return [];
      idOf.delete(hashes[index]!);
      return one.epcs.map((epc) => ({ id, ...epc, epc: canonical(epc.epc) }));
    });
    if (rows.length > 0)
      await tx`
        INSERT INTO foreign_epc (foreign_id, role, epc, quantity, uom)
        SELECT *
        FROM unnest(
          ${rows.map((row) => row.id)}::bigint[], ${rows.map((row) => row.role)}::text[],
            ${rows.map((row) => row.epc)}::text[], ${rows.map((row) => row.quantity)}::numeric[],
            ${rows.map((row) => row.uom)}::text[]
        )
        ON CONFLICT DO NOTHING
      `;
    const named = [...new Set(events.flatMap((one) => one.epcs.map((epc) => canonical(epc.epc))))];
    const ours = await marksOfEpcs(tx, named);
    return {
      events: events.length,
      fresh: kept.length,
      known: events.length - kept.length,
      foreign: named.filter((epc) => !ours.has(epc)).slice(0, 100)
    };
  })) as Captured;
}

/**
 * What one sender says under one id stays so: sent again with other content it is not passed over
 * as known, but refused. A correction has an id of its own, and names what it corrects.
 * @throws Problem 409
 */
async function sameAsKept(
  tx: Tx,
  { events, context, sender }: Extract<DocumentReading, { ok: true }>
): Promise<void> {
  const named = events.flatMap(({ id }) => (id === null ? [] : [id]));
  if (named.length === 0) return;
  const rows = await tx<{ id: string; body: EpcisEvent }[]>`
    SELECT event_hash AS id, body
    FROM foreign_event
    WHERE event_id IS NOT NULL
      AND sender = ${sender}
      AND event_hash = ANY(${named})
  `;
  const kept = new Map(rows.map(({ id, body }) => [id, eventHash(body, context)]));
  const errors = events.flatMap((one, at) => {
    const said = one.id === null ? undefined : kept.get(one.id);
    if (one.id === null || said === undefined || said === eventHash(one.event, context)) return [];
    const message = `${shown(one.id)} stands for another event of this sender already. Send what corrects it under an id of its own.`;
    return [
      {
        code: 'key.used',
        path: `epcisBody.eventList[${at}].eventID`,
        number: shown(one.id),
        message
      }
    ];
  });
  if (errors.length > 0)
    throw new Problem(409, 'The document cannot be captured', errors, 'Nothing of it was kept.');
}

/**
 * An identifier in the one form it is kept in, so that a URN and a Digital Link of the same unit
 * meet.
 */
export function canonical(epc: string): string {
  const read = readIdentifier(epc, ownBase(), checkDigit);
  if (read.is === 'unit') return `https://id.gs1.org/00/${read.sscc}`;
  if (read.is !== 'mark' || read.gtin === null) return epc;
  return epcOf(
    { product: '', gtin: read.gtin, kind: read.kind, number: read.number, lot: null, unit: '' },
    ownBase()
  );
}

/** Which of these identifiers are marks of ours. */
export async function marksOfEpcs(db: Db, epcs: readonly string[]): Promise<Map<string, number>> {
  const read = epcs.flatMap((epc) => {
    const one = readIdentifier(epc, ownBase(), checkDigit);
    return one.is === 'mark' ? [{ epc, ...one }] : [];
  });
  if (read.length === 0) return new Map();
  // Each way a name may be meant on its own: joined by OR, every mark would be looked at for each.
  const rows = await db<{ epc: string; id: number }[]>`
    WITH w AS (
      SELECT *
      FROM unnest(
        ${read.map((one) => one.epc)}::text[], ${read.map((one) => one.gtin)}::text[],
          ${read.map((one) => (one.product === null ? null : numberKey(one.product)))}::text[],
          ${read.map((one) => one.kind)}::text[],
          ${read.map((one) => (one.number === null ? null : numberKey(one.number)))}::text[]
      ) AS x (epc, gtin, product, kind, key)
    ),
    meant AS (
      SELECT w.epc, w.kind, w.key, p.id AS product_id
      FROM w
        JOIN product p ON p.gtin = w.gtin
      UNION
      SELECT w.epc, w.kind, w.key, u.product_id
      FROM w
        JOIN product_unit u ON u.gtin = w.gtin
      UNION
      SELECT w.epc, w.kind, w.key, p.id
      FROM w
        JOIN product p ON upper(p.code) = w.product
    )
    SELECT n.epc, m.id
    FROM meant n
      JOIN mark m ON m.product_id = n.product_id AND m.kind = n.kind AND m.number_key = n.key
    UNION ALL
    SELECT n.epc, m.id
    FROM meant n
      JOIN mark m ON m.product_id = n.product_id AND m.kind = 'bulk'
    WHERE n.kind = 'bulk'
  `;
  return new Map(rows.map((row) => [row.epc, row.id]));
}

/** The identifiers of marks of ours. */
export async function epcsOfMarks(db: Db, ids: readonly number[]): Promise<Map<number, string>> {
  const rows = await db<(NamedMark & { id: number })[]>`
    SELECT m.id, p.code AS product, p.gtin, m.kind, m.number, NULL AS lot, p.unit
    FROM mark m
      JOIN product p ON p.id = m.product_id
    WHERE m.id = ANY(${ids as number[]})
  `;
  return new Map(rows.map(({ id, ...mark }) => [id, epcOf(mark, ownBase())]));
}
