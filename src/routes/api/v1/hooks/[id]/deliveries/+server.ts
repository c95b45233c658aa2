import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readDeliveries } from '$lib/server/hooks/hooks.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse(await readDeliveries(db(), rowId(params.id) ?? 0)));
