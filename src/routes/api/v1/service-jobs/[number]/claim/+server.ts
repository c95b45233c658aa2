import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { claimPart } from '$lib/server/service/claims.ts';
import { readClaim } from '$lib/server/service/read-claims.ts';
import { NewClaimPart } from '$lib/server/service/schemas.ts';

/** A part goes into the claim that is collected for its supplier. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    const given = await readBody(request, NewClaimPart);
    const { number, fresh } = await claimPart(db(), locals.actor!, key, params.number, given);
    return jsonResponse({ claim: await readClaim(db(), number) }, fresh ? 201 : 200);
  });
