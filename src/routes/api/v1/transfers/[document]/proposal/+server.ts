import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { proposeTransfer } from '$lib/server/stock/transfers/propose-transfer.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

/** What to take for what is still to leave. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const head = await readTransferHead(db(), params.document);
    return jsonResponse(await proposeTransfer(db(), head));
  });
