import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { IdentityQuery } from '$lib/server/catalogue/schemas.ts';
import { consequencesOf } from '$lib/server/catalogue/products.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** What marking a product differently would mean, before it is done. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () =>
    jsonResponse(await consequencesOf(db(), params.code, readQuery(url, IdentityQuery).to))
  );
