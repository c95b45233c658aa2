import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { CustomerWishes } from '$lib/server/catalogue/schemas.ts';
import { putWishes, readCustomerWishes } from '$lib/server/catalogue/wishes.ts';
import { db } from '$lib/server/kernel/db/client.ts';

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse({ wishes: await readCustomerWishes(db(), params.code) }));

export const PUT: RequestHandler = ({ params, request }) =>
  answering(async () =>
    jsonResponse({
      wishes: await putWishes(db(), params.code, (await readBody(request, CustomerWishes)).wishes)
    })
  );
