import type { RequestHandler } from './$types';
import { epcisDocument, toEpcis } from '$lib/core/epcis/write';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { ownBase } from '$lib/server/own-base';
import { readLedgerEvents } from '$lib/server/reading/ledger-events';
import { shipmentNoticeIds } from '$lib/server/reading/shipment-notice';
import { rowId } from '$lib/server/row-id';
import { fileResponse } from '$lib/server/tables/write-table';

/**
 * An event as an EPCIS 2.0 document: the shipment notice, with what was packed into the cartons
 * that left.
 */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id) ?? notFound('event', params.id);
    const { events, marks } = await readLedgerEvents(db(), await shipmentNoticeIds(db(), id));
    const event = events.find((one) => one.id === id) ?? notFound('event', params.id);
    const document = epcisDocument(
      events.flatMap((one) => toEpcis(one, marks, ownBase())),
      new Date().toISOString()
    );
    return fileResponse(
      {
        body: new TextEncoder().encode(JSON.stringify(document, null, 2)),
        type: 'application/ld+json',
        name: `${event.kind.replace(' ', '-')}-${event.document}.jsonld`
      },
      true
    );
  });
