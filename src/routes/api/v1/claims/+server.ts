import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readClaims } from '$lib/server/service/read-claims.ts';
import { ClaimsQuery } from '$lib/server/service/schemas.ts';

/** Claims on suppliers, those that wait first; found by our number, theirs, or a part’s serial. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { q } = readQuery(url, ClaimsQuery);
    return jsonResponse({ claims: await readClaims(db(), q) });
  });
