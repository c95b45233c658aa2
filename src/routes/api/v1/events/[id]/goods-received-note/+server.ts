import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { goodsReceivedPdf, readGoodsReceived } from '$lib/server/documents/goods-received';
import { fileResponse } from '$lib/server/tables/write-table';
import { rowId } from '$lib/server/row-id';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const note = id !== null ? await readGoodsReceived(db(), id) : null;
    if (!note) notFound('receipt', params.id);
    return fileResponse(
      {
        body: await goodsReceivedPdf(note),
        type: 'application/pdf',
        name: `goods-received-${note.document}.pdf`
      },
      true
    );
  });
