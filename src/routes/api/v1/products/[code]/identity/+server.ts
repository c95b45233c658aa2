import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readQuery } from '$lib/server/api/read-body';
import { IdentityQuery } from '$lib/server/api/schemas';
import { consequencesOf } from '$lib/server/catalogue/products';
import { db } from '$lib/server/db/client';

/** What marking a product differently would mean, before it is done. */
export const GET: RequestHandler = ({ params, url }) =>
  answering(async () =>
    jsonResponse(await consequencesOf(db(), params.code, readQuery(url, IdentityQuery).to))
  );
