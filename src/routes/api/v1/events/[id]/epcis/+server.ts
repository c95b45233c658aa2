import type { RequestHandler } from './$types';
import { epcisDocument } from '$lib/core/exchange/write.ts';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readLedgerEvents } from '$lib/server/exchange/ledger-events.ts';
import { tellEvent } from '$lib/server/exchange/write-events.ts';
import { shipmentNoticeIds } from '$lib/server/shipping/shipment-notice.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';

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
      events.flatMap((one) => tellEvent(one, marks)),
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
