import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import {
  goodsReceivedPdf,
  readGoodsReceived
} from '$lib/server/receiving/papers/goods-received.ts';
import { pdfResponse } from '$lib/server/kernel/tables/write-table.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const id = rowId(params.id);
    const note = id !== null ? await readGoodsReceived(db(), id) : null;
    if (!note) notFound('receipt', params.id);
    return pdfResponse(await goodsReceivedPdf(note), `goods-received-${note.document}.pdf`);
  });
