import type { RequestHandler } from './$types';
import { answering } from '$lib/server/api/answer';
import { notFound } from '$lib/server/booking/problem';
import { db } from '$lib/server/db/client';
import { goodsReceivedPdf, readGoodsReceived } from '$lib/server/documents/goods-received';
import { fileResponse } from '$lib/server/tables/write-table';

export const GET: RequestHandler = ({ params }) => answering(async () => {
  const note = /^\d{1,15}$/.test(params.id) ? await readGoodsReceived(db(), Number(params.id)) : null;
  if (!note) notFound('receipt', params.id);
  return fileResponse({ body: await goodsReceivedPdf(note), type: 'application/pdf', name: `goods-received-${note.document}.pdf` }, true);
});
