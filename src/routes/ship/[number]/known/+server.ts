import type { RequestHandler } from './$types';
import { knownText } from '$lib/core/ledger/known-text.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { knownForShipment } from '$lib/server/shipping/known-for-shipment.ts';

/** What a device keeps of an order, to judge picking, packing and shipping without a line. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const known = await knownForShipment(db(), params.number);
    if (!known) throw new Problem(404, `There is no sales order ${params.number}`);
    return jsonResponse(knownText(known));
  });
