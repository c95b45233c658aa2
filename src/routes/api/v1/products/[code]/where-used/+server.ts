import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { whereUsed } from '$lib/server/catalogue/bills.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const { rows, more } = await whereUsed(db(), params.code, today());
    return jsonResponse({ product: params.code, usedIn: rows, more });
  });
