import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { StockQuery } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { readStockRows } from '$lib/server/reading/marks';

export const GET: RequestHandler = ({ url }) =>
  answering(async () => jsonResponse(await readStockRows(db(), readQuery(url, StockQuery))));
