import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { deliveryNotePdf } from '$lib/server/shipping/papers/delivery-note.ts';
import { readDeliveryNote } from '$lib/server/shipping/read-delivery-note.ts';
import { languageAsked } from '$lib/server/http/paper-asked.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';

export const GET: RequestHandler = ({ params, url }) =>
  answering(async () => {
    const id = rowId(params.id);
    const note =
      (id === null ? null : await readDeliveryNote(db(), id)) ?? notFound('shipment', params.id);
    const language = languageAsked(url) ?? note.language;
    const pdf = await deliveryNotePdf({ ...note, language });
    return pdfResponse(pdf, `delivery-note-${note.document}.pdf`);
  });
