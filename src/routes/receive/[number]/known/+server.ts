import type { RequestHandler } from './$types';
import { knownText } from '$lib/core/ledger/known-text.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { knownForReceipt } from '$lib/server/receiving/known-for-receipt.ts';

/** What a device of the dock keeps of an order, to judge a receipt without a line. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const known = await knownForReceipt(db(), params.number);
    if (!known) throw new Problem(404, `There is no purchase order ${params.number}`);
    return jsonResponse(knownText(known));
  });
