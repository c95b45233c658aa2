import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { deliveryNotePdf, readDeliveryNote } from '$lib/server/documents/delivery-note';
import { rowId } from '$lib/server/row-id';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const note =
      (id === null ? null : await readDeliveryNote(db(), id)) ?? notFound('shipment', params.id);
    return fileResponse(
      {
        body: await deliveryNotePdf(note),
        type: 'application/pdf',
        name: `delivery-note-${note.document}.pdf`
      },
      true
    );
  });
