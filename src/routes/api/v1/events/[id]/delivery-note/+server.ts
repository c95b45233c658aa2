import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { deliveryNotePdf, readDeliveryNote } from '$lib/server/shipping/papers/delivery-note.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const note =
      (id === null ? null : await readDeliveryNote(db(), id)) ?? notFound('shipment', params.id);
    return pdfResponse(await deliveryNotePdf(note), `delivery-note-${note.document}.pdf`);
  });
