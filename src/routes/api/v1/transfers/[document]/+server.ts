import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { closeTransferOrder, orderTransfer } from '$lib/server/stock/transfers/order-transfer.ts';
import { readTransfer } from '$lib/server/stock/transfers/read-transfers.ts';
import { TransferChange, TransferOrder } from '$lib/server/stock/transfers/schemas.ts';
import { readTransferHead } from '$lib/server/stock/transfers/transfer-head.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse(await shown(params.document)));

/** Orders a transfer ahead, or changes an order that nothing has left on. */
export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, TransferOrder);
    const { document, created } = await orderTransfer(db(), locals.actor!, params.document, given);
    return jsonResponse(await shown(document), created ? 201 : 200);
  });

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { closed } = await readBody(request, TransferChange);
    await closeTransferOrder(db(), locals.actor!, params.document, closed);
    return jsonResponse(await shown(params.document));
  });

async function shown(document: string): Promise<object> {
  const head = await readTransferHead(db(), document);
  const { id: _, way: __, ...said } = head;
  return { ...said, ...(await readTransfer(db(), head)) };
}
