import { makeSscc } from '../../core/gs1/sscc.ts';
import type { MovementRow, Rows, TransformationRow } from '../../core/ledger/booking.ts';
import { idList } from '../kernel/db/id-list.ts';
import type { Tx } from '../kernel/db/client.ts';

export interface EventRow {
  kind: string;
  document: string;
  reference: string | null;
  happenedAt: Date;
  bookedBy: number;
  /** The token it came by; null where somebody was at a screen. */
  tokenId: number | null;
  reason: string | null;
}

/**
 * Writes the rows of a decided booking: one statement per table, whatever the number of rows. No
 * decisions here.
 * Numbers given on the way are an event of their own, of kind identify, just before.
 * All statements are sent one behind the other without waiting: the stock is locked meanwhile, and
 * others wait for it.
 * @param reserved an id taken for the event beforehand; where the booking makes nothing that needs
 * an id it costs no round trip of its own
 * @param alongside what else is asked in the same breath, once the event's id, the real ids of the
 * marks it answers with and, a little later, when it was booked are known
 * @returns the event's id, when it was booked, the SSCCs of new cartons and pallets, and what was
 * asked alongside
 */
export async function writeRows<T>(
  tx: Tx,
  event: EventRow,
  rows: Rows,
  reserved: number,
  alongside: (eventId: number, markIds: number[], bookedAt: Promise<Date>) => Promise<T>
): Promise<{ eventId: number; bookedAt: Date; units: string[]; with: T }> {
  const identifies = rows.identified.movements.length > 0,
    scraps = rows.scrapped !== null;
  const needsIds = identifies || scraps || rows.newMarks.length + rows.transformations.length > 0;
  // Numbers given on the way come before the booking, and so do their ids.
  const [ids] = !needsIds
    ? [{ event: reserved, before: null, after: null, marks: [], transformations: [] }]
    : await tx<
        {
          event: number;
          before: number | null;
          after: number | null;
          marks: number[];
          transformations: number[];
        }[]
      >`
        SELECT CASE WHEN ${identifies} THEN nextval('event_id_seq') END AS before,
          CASE WHEN ${identifies} THEN nextval('event_id_seq') ELSE ${reserved}::bigint END AS event,
          CASE WHEN ${scraps} THEN nextval('event_id_seq') END AS after,
          ARRAY(
            SELECT nextval('mark_id_seq') FROM generate_series(1, ${rows.newMarks.length}::int)
          ) AS marks,
          ARRAY(
            SELECT nextval('transformation_id_seq')
            FROM generate_series(
              1, ${rows.transformations.length + rows.identified.transformations.length}::int
            )
          ) AS transformations
      `;
  const { event: eventId, before, after } = ids!;
  const newIds = (ids!.marks as unknown[]).map(Number);
  const transformationIds = (ids!.transformations as unknown[]).map(Number);
  const real = (ref: number): number => (ref < 0 ? newIds[-ref - 1]! : ref);

  // Each is sent at once by execute(), not when it is awaited, so that they reach the database in
  // this order.
  const sent: Promise<unknown>[] = [];
  if (before !== null)
    sent.push(
      writeEvent(
        tx,
        before,
        { ...event, kind: 'identify', reason: null },
        { orderId: null, partnerId: null }
      )
    );
  const booked = writeEvent(tx, eventId, event, rows, rows.reverses?.event ?? null);
  sent.push(booked);
  if (after !== null)
    sent.push(
      writeEvent(
        tx,
        after,
        { ...event, kind: 'scrap', reason: rows.scrapped!.reason },
        { orderId: rows.orderId, partnerId: null }
      )
    );

  if (rows.newMarks.length > 0) {
    const column = <K extends keyof Rows['newMarks'][number]>(name: K) =>
      rows.newMarks.map((mark) => mark[name]);
    sent.push(
      tx`
        INSERT INTO mark (
          id, product_id, kind, number, lot_id, supplier_number, made_on, expires_on, retest_on,
            warranty_months, facts, birth_event
        )
        SELECT id, product_id, kind, number, lot_id, supplier_number, made_on, expires_on,
          retest_on, warranty_months, facts::jsonb, birth_event
        FROM unnest(
          ${newIds}::bigint[], ${column('productId')}::bigint[], ${column('kind')}::text[],
            ${column('number')}::text[],
            ${rows.newMarks.map((mark) => (mark.lot === null ? null : real(mark.lot)))}::bigint[],
            ${column('supplierNumber')}::text[], ${column('madeOn')}::date[],
            ${column('expiresOn')}::date[], ${column('retestOn')}::date[],
            ${column('warrantyMonths')}::int[],
            ${rows.newMarks.map((mark) => JSON.stringify(mark.facts))}::text[],
            ${rows.newMarks.map((mark) => (mark.byIdentify ? before : eventId))}::bigint[]
        ) AS t (
          id, product_id, kind, number, lot_id, supplier_number, made_on, expires_on, retest_on,
            warranty_months, facts, birth_event
        )
      `.execute()
    );
  }
  const transformations = [
    ...rows.identified.transformations.map((transformation) => ({
      ...transformation,
      event: before!
    })),
    ...rows.transformations.map((transformation) => ({ ...transformation, event: eventId }))
  ];
  sent.push(
    writeTransformations(
      tx,
      transformations.map((transformation, index) => ({
        ...transformation,
        id: transformationIds[index]!
      })),
      real
    )
  );
  // Before the movements: the law of time asks whether somebody went on in spite of it.
  if (rows.remarks.length > 0) {
    const column = <K extends keyof Rows['remarks'][number]>(name: K) =>
      rows.remarks.map((remark) => remark[name]);
    sent.push(
      tx`
        INSERT INTO booking_remark (event_id, code, answer, number, message, reason, approval_id)
        SELECT ${eventId}::bigint, *
        FROM unnest(
          ${column('code')}::text[], ${column('answer')}::text[], ${column('number')}::text[],
            ${column('message')}::text[], ${column('reason')}::text[],
            ${column('approval')}::bigint[]
        )
      `.execute()
    );
  }
  if (before !== null) sent.push(writeMovements(tx, before, rows.identified.movements, real));
  sent.push(writeMovements(tx, eventId, rows.movements, real));
  if (after !== null) sent.push(writeMovements(tx, after, rows.scrapped!.movements, real));
  if (rows.reverses)
    sent.push(
      tx`
        INSERT INTO transformation_reversed (transformation_id, event_id)
        SELECT unnest(${rows.reverses.transformations}::bigint[]), ${eventId}::bigint
      `.execute()
    );
  if (rows.gaps.length > 0) {
    const idOf = (index: number) =>
      transformationIds[rows.identified.transformations.length + index]!;
    sent.push(
      tx`
        INSERT INTO build_gap (event_id, transformation_id, mark_id, component_id, wanted, used)
        SELECT ${eventId}::bigint, *
        FROM unnest(
          ${rows.gaps.map((gap) => idOf(gap.transformation))}::bigint[],
            ${rows.gaps.map((gap) => real(gap.mark))}::bigint[],
            ${rows.gaps.map((gap) => gap.componentId)}::bigint[],
            ${rows.gaps.map((gap) => gap.wanted.toFixed())}::numeric[],
            ${rows.gaps.map((gap) => gap.used.toFixed())}::numeric[]
        )
      `.execute()
    );
  }
  if (rows.changes.length > 0) {
    sent.push(
      tx`
        INSERT INTO mark_change (event_id, mark_id, field, fact, old_value, new_value)
        SELECT ${eventId}::bigint, *
        FROM unnest(
          ${rows.changes.map((row) => real(row.mark))}::bigint[],
            ${rows.changes.map((row) => row.field)}::text[],
            ${rows.changes.map((row) => row.fact ?? null)}::text[],
            ${rows.changes.map((row) => row.from)}::text[],
            ${rows.changes.map((row) => row.to)}::text[]
        )
      `.execute()
    );
  }
  if (rows.plans.length > 0) {
    sent.push(
      tx`
        INSERT INTO event_plan (event_id, product_id, version_id)
        SELECT ${eventId}::bigint, *
        FROM unnest(
          ${rows.plans.map((row) => row.productId)}::bigint[],
            ${rows.plans.map((row) => row.version)}::bigint[]
        )
      `.execute()
    );
  }
  const units =
    rows.newUnits.length > 0 || rows.packings.length > 0
      ? writePackings(tx, eventId, rows, real)
      : Promise.resolve<string[]>([]);
  sent.push(units);
  if (rows.shippedUnits.length > 0)
    sent.push(
      tx`
        INSERT INTO unit_shipped (unit_id, event_id)
        SELECT unnest(${rows.shippedUnits}::bigint[]), ${eventId}::bigint
      `.execute()
    );
  sent.push(...writeFittings(tx, eventId, rows, real));
  if (rows.told.length > 0)
    sent.push(
      tx`
        INSERT INTO cost_told (event_id, mark_id, of_event, unit_cost)
        SELECT ${eventId}::bigint, *
        FROM unnest(
          ${rows.told.map((row) => real(row.mark))}::bigint[],
            ${rows.told.map((row) => row.ofEvent)}::bigint[],
            ${rows.told.map((row) => row.unitCost.toFixed())}::numeric[]
        )
      `.execute()
    );
  if (rows.unitsBack.length > 0)
    sent.push(
      tx`
        INSERT INTO unit_back (unit_id, shipment_id, event_id)
        SELECT unnest(${rows.unitsBack}::bigint[]), ${rows.reverses!.event}::bigint,
          ${eventId}::bigint
      `.execute()
    );
  if (rows.returned.length > 0) {
    sent.push(
      tx`
        INSERT INTO returned (event_id, mark_id, shipment_id, quantity)
        SELECT ${eventId}::bigint, m, s, sum(q)
        FROM unnest(
          ${rows.returned.map((row) => real(row.mark))}::bigint[],
            ${rows.returned.map((row) => row.shipmentId)}::bigint[],
            ${rows.returned.map((row) => row.quantity.toFixed())}::numeric[]
        ) AS t (m, s, q)
        GROUP BY m, s
      `.execute()
    );
  }
  const asked = alongside(eventId, rows.answer.map(real), booked);
  await Promise.all([...sent, asked]);
  return { eventId, bookedAt: await booked, units: await units, with: await asked };
}

/** Parts that go into units, and come out. */
function writeFittings(
  tx: Tx,
  eventId: number,
  { fittings, removals }: Rows,
  real: (ref: number) => number
): Promise<unknown>[] {
  // Mostly no position is said: none of thousands need be quoted.
  const positionsOf = (list: Rows['fittings']) =>
    list.some((row) => row.position !== null)
      ? tx`${list.map((row) => row.position)}::text[]`
      : tx`array_fill(NULL::text, ARRAY[${list.length}::int])`;
  const columns = (list: Rows['fittings']) => tx`
    unnest(
      ${idList(list.map((row) => real(row.part)))}::text::bigint[],
        ${idList(list.map((row) => real(row.host)))}::text::bigint[],
        ${positionsOf(list)},
        ${`{${list.map((row) => row.quantity.toFixed()).join(',')}}`}::text::numeric[]
    )
  `;
  const sent: Promise<unknown>[] = [];
  if (removals.length > 0)
    sent.push(
      tx`
        INSERT INTO removal (component_id, host_id, position, quantity, event_id)
        SELECT *, ${eventId}::bigint FROM ${columns(removals)}
      `.execute()
    );
  if (fittings.length > 0)
    sent.push(
      tx`
        INSERT INTO fitting (component_id, host_id, position, quantity, from_event)
        SELECT *, ${eventId}::bigint FROM ${columns(fittings)}
      `.execute()
    );
  return sent;
}

/**
 * Makes the new cartons and pallets, each under an SSCC of our prefix, and puts in what goes in.
 * Answers the SSCCs of the new ones.
 */
async function writePackings(
  tx: Tx,
  eventId: number,
  rows: Rows,
  real: (ref: number) => number
): Promise<string[]> {
  const made: { id: number; sscc: string }[] = [];
  if (rows.newUnits.length > 0) {
    const [{ prefix, serials }] = await tx<[{ prefix: string; serials: string[] }]>`
      SELECT (SELECT gs1_prefix FROM company) AS prefix,
        ARRAY(
          SELECT nextval('sscc_seq') FROM generate_series(1, ${rows.newUnits.length}::int)
        ) AS serials
    `;
    made.push(
      ...(await tx<{ id: number; sscc: string }[]>`
        INSERT INTO logistic_unit (sscc, kind, order_id, event_id)
        SELECT s, k, o, ${eventId}::bigint
        FROM unnest(
          ${serials.map((serial) => makeSscc(prefix, Number(serial)))}::text[],
            ${rows.newUnits.map((unit) => unit.kind)}::text[],
            ${rows.newUnits.map((unit) => unit.orderId)}::bigint[]
        ) AS t (s, k, o)
        RETURNING id, sscc
      `)
    );
  }
  const unitOf = (ref: number): number => (ref < 0 ? made[-ref - 1]!.id : ref);
  if (rows.packings.length > 0) {
    await tx`
      INSERT INTO packing (event_id, unit_id, mark_id, child_id, quantity)
      SELECT ${eventId}::bigint, *
      FROM unnest(
        ${rows.packings.map((row) => unitOf(row.unit))}::bigint[],
          ${rows.packings.map((row) => (row.mark === undefined ? null : real(row.mark)))}::bigint[],
          ${rows.packings.map((row) => row.child ?? null)}::bigint[],
          ${rows.packings.map((row) => row.quantity.toFixed())}::numeric[]
      )
    `;
  }
  return made.map((unit) => unit.sscc);
}

async function writeEvent(
  tx: Tx,
  id: number,
  event: EventRow,
  { orderId, partnerId }: Pick<Rows, 'orderId' | 'partnerId'>,
  reverses: number | null = null
): Promise<Date> {
  const [written] = await tx<{ booked_at: Date }[]>`
    INSERT INTO event (
      id, kind, document, reference, order_id, partner_id, happened_at, booked_by, reason,
        reverses_id, token_id
    )
    VALUES (
      ${id}, ${event.kind}, ${event.document}, ${event.reference}, ${orderId}, ${partnerId},
        ${event.happenedAt}, ${event.bookedBy}, ${event.reason}, ${reverses}, ${event.tokenId}
    )
    RETURNING booked_at
  `.execute();
  return written!.booked_at;
}

async function writeTransformations(
  tx: Tx,
  list: readonly (TransformationRow & { id: number; event: number })[],
  real: (ref: number) => number
): Promise<void> {
  if (list.length === 0) return;
  const sent: Promise<unknown>[] = [
    tx`
      INSERT INTO transformation (id, event_id, shared)
      SELECT id, event_id, shared::boolean
      FROM unnest(
        ${list.map((row) => row.id)}::bigint[], ${list.map((row) => row.event)}::bigint[],
          ${list.map((row) => String(row.shared ?? false))}::text[]
      ) AS t (id, event_id, shared)
    `.execute()
  ];
  const flat = (side: 'inputs' | 'outputs') =>
    list.flatMap((transformation) =>
      transformation[side].map((row) => ({
        transformation: transformation.id,
        mark: real(row.mark),
        quantity: row.quantity.toFixed(),
        share: 'share' in row ? (row.share?.toFixed() ?? null) : null,
        position: 'position' in row ? (row.position ?? null) : null
      }))
    );
  const inputs = flat('inputs'),
    outputs = flat('outputs');
  if (inputs.length > 0) {
    sent.push(
      tx`
        INSERT INTO transformation_input (transformation_id, mark_id, quantity, position)
        SELECT *
        FROM unnest(
          ${inputs.map((row) => row.transformation)}::bigint[],
            ${inputs.map((row) => row.mark)}::bigint[],
            ${inputs.map((row) => row.quantity)}::numeric[],
            ${inputs.map((row) => row.position)}::text[]
        )
      `.execute()
    );
  }
  if (outputs.length > 0) {
    sent.push(
      tx`
        INSERT INTO transformation_output (transformation_id, mark_id, quantity, share)
        SELECT *
        FROM unnest(
          ${outputs.map((row) => row.transformation)}::bigint[],
            ${outputs.map((row) => row.mark)}::bigint[],
            ${outputs.map((row) => row.quantity)}::numeric[],
            ${outputs.map((row) => row.share)}::numeric[]
        )
      `.execute()
    );
  }
  await Promise.all(sent);
}

async function writeMovements(
  tx: Tx,
  eventId: number,
  list: readonly MovementRow[],
  real: (ref: number) => number
): Promise<void> {
  if (list.length === 0) return;
  const costed = list.some((row) => row.unitCost !== undefined);
  await tx`
    INSERT INTO movement (event_id, mark_id, place_id, quantity ${costed ? tx`, unit_cost` : tx``})
    SELECT ${eventId}::bigint, *
    FROM unnest(
      ${idList(list.map((row) => real(row.mark)))}::text::bigint[],
        ${idList(list.map((row) => row.placeId))}::text::bigint[],
        ${`{${list.map((row) => row.quantity.toFixed()).join(',')}}`}::text::numeric[] ${
          costed
            ? tx`
          , ${list.map((row) => row.unitCost?.toFixed() ?? null)}::numeric[]
        `
            : tx``
        }
    )
  `.execute();
}
