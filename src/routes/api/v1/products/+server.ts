import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { searchProducts } from '$lib/server/catalogue/read-catalogue.ts';

/** Products whose code or name holds the text `q`, for pickers. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () =>
    jsonResponse({
      products: await searchProducts(db(), (url.searchParams.get('q') ?? '').slice(0, 100))
    })
  );
