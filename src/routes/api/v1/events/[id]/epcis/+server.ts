import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { epcisEventApart } from '$lib/server/files-apart.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { shipmentNoticeIds } from '$lib/server/shipping/shipment-notice.ts';

/**
 * An event as an EPCIS 2.0 document: the shipment notice, with what was packed into the cartons
 * that left.
 */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id) ?? notFound('event', params.id);
    return fileResponse(await epcisEventApart(id, await shipmentNoticeIds(db(), id)), true);
  });
