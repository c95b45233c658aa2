import type { Rows } from '../../core/ledger/booking.ts';
import type { Tx } from '../db/client.ts';

export interface EventRow {
  kind: string;
  document: string;
  reference: string | null;
  happenedAt: Date;
  bookedBy: number;
  reason: string | null;
}

/**
 * Writes the rows of a decided booking: one statement per table, whatever the number of rows. No decisions here.
 * @returns the event's id and when it was booked, and the real id of every mark the booking answers with
 */
export async function writeRows(tx: Tx, event: EventRow, rows: Rows): Promise<{ eventId: number; bookedAt: Date; markIds: number[] }> {
  const [ids] = await tx<{ event: number; marks: number[]; transformations: number[] }[]>`
    SELECT nextval('event_id_seq') AS event,
      ARRAY(SELECT nextval('mark_id_seq') FROM generate_series(1, ${rows.newMarks.length}::int)) AS marks,
      ARRAY(SELECT nextval('transformation_id_seq') FROM generate_series(1, ${rows.transformations.length}::int)) AS transformations`;
  const { event: eventId } = ids!;
  const newIds = (ids!.marks as unknown[]).map(Number);
  const transformationIds = (ids!.transformations as unknown[]).map(Number);
  const real = (ref: number): number => (ref < 0 ? newIds[-ref - 1]! : ref);

  const [written] = await tx<{ booked_at: Date }[]>`
    INSERT INTO event (id, kind, document, reference, order_id, partner_id, happened_at, booked_by, reason)
    VALUES (${eventId}, ${event.kind}, ${event.document}, ${event.reference}, ${rows.orderId}, ${rows.partnerId}, ${event.happenedAt}, ${event.bookedBy}, ${event.reason})
    RETURNING booked_at`;

  if (rows.newMarks.length > 0) {
    const column = <K extends keyof Rows['newMarks'][number]>(name: K) => rows.newMarks.map((mark) => mark[name]);
    await tx`
      INSERT INTO mark (id, product_id, kind, number, lot_id, supplier_number, made_on, expires_on, warranty_months, birth_event)
      SELECT *, ${eventId}::bigint FROM unnest(
        ${newIds}::bigint[], ${column('productId')}::bigint[], ${column('kind')}::text[], ${column('number')}::text[],
        ${rows.newMarks.map((mark) => (mark.lot === null ? null : real(mark.lot)))}::bigint[], ${column('supplierNumber')}::text[],
        ${column('madeOn')}::date[], ${column('expiresOn')}::date[], ${column('warrantyMonths')}::int[])`;
  }
  if (rows.transformations.length > 0) {
    await tx`INSERT INTO transformation (id, event_id) SELECT id, ${eventId}::bigint FROM unnest(${transformationIds}::bigint[]) AS t (id)`;
    const flat = (side: 'inputs' | 'outputs') => rows.transformations.flatMap((transformation, index) =>
      transformation[side].map((row) => ({ transformation: transformationIds[index]!, mark: real(row.mark), quantity: row.quantity.toFixed(), share: 'share' in row ? (row.share?.toFixed() ?? null) : null })));
    const inputs = flat('inputs'), outputs = flat('outputs');
    if (inputs.length > 0) {
      await tx`INSERT INTO transformation_input (transformation_id, mark_id, quantity)
        SELECT * FROM unnest(${inputs.map((row) => row.transformation)}::bigint[], ${inputs.map((row) => row.mark)}::bigint[], ${inputs.map((row) => row.quantity)}::numeric[])`;
    }
    if (outputs.length > 0) {
      await tx`INSERT INTO transformation_output (transformation_id, mark_id, quantity, share)
        SELECT * FROM unnest(${outputs.map((row) => row.transformation)}::bigint[], ${outputs.map((row) => row.mark)}::bigint[], ${outputs.map((row) => row.quantity)}::numeric[], ${outputs.map((row) => row.share)}::numeric[])`;
    }
  }
  if (rows.movements.length > 0) {
    await tx`INSERT INTO movement (event_id, mark_id, place_id, quantity)
      SELECT ${eventId}::bigint, * FROM unnest(${rows.movements.map((row) => real(row.mark))}::bigint[], ${rows.movements.map((row) => row.placeId)}::bigint[], ${rows.movements.map((row) => row.quantity.toFixed())}::numeric[])`;
  }
  if (rows.changes.length > 0) {
    await tx`INSERT INTO mark_change (event_id, mark_id, field, old_value, new_value)
      SELECT ${eventId}::bigint, * FROM unnest(${rows.changes.map((row) => real(row.mark))}::bigint[], ${rows.changes.map((row) => row.field)}::text[], ${rows.changes.map((row) => row.from)}::text[], ${rows.changes.map((row) => row.to)}::text[])`;
  }
  return { eventId, bookedAt: written!.booked_at, markIds: rows.answer.map(real) };
}
