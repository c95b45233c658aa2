import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { checkInstant, idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { dispatch } from '$lib/server/stock/transfers/book-transfer.ts';
import { listTransfers } from '$lib/server/stock/transfers/read-transfers.ts';
import { NewTransfer } from '$lib/server/stock/transfers/schemas.ts';

export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(await listTransfers(db())));

/** Goods leave on a transfer. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, NewTransfer);
    checkInstant(given.at);
    const { answer, fresh } = await dispatch(db(), locals.actor!, key, given);
    return jsonResponse(answer, fresh ? 201 : 200);
  });
