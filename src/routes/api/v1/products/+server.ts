import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { db } from '$lib/server/db/client';
import { searchProducts } from '$lib/server/reading/catalogue';

/** Products whose code or name holds the text `q`, for pickers. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () =>
    jsonResponse({
      products: await searchProducts(db(), (url.searchParams.get('q') ?? '').slice(0, 100))
    })
  );
