import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { StockQuery } from '$lib/server/stock/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readStockRows } from '$lib/server/stock/marks.ts';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(await readStockRows(db(), readQuery(url, StockQuery))));
