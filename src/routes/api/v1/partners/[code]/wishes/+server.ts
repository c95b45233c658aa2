import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { CustomerWishes } from '$lib/server/api/schemas';
import { putWishes, readCustomerWishes } from '$lib/server/catalogue/wishes';
import { db } from '$lib/server/db/client';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse({ wishes: await readCustomerWishes(db(), params.code) }));

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () =>
    jsonResponse({
      wishes: await putWishes(db(), params.code, (await readBody(request, CustomerWishes)).wishes)
    })
  );
