import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readTransfer } from '$lib/server/stock/transfers/read-transfers.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const head = await readTransferHead(db(), params.document);
    const { id: _, way: __, ...shown } = head;
    return jsonResponse({ ...shown, ...(await readTransfer(db(), head)) });
  });
