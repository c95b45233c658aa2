import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { answerClaim, sendClaim } from '$lib/server/service/claims.ts';
import { readClaim } from '$lib/server/service/read-claims.ts';
import { ClaimChange } from '$lib/server/service/schemas.ts';

const found = async (number: string) =>
  (await readClaim(db(), number)) ?? notFound('claim', number);

export const GET: RequestHandler = ({ params }) =>
  answering(async () => jsonResponse(await found(params.number)));

/** Says that a claim was sent, or what the supplier answered. */
export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, ClaimChange);
    if (given.sent) await sendClaim(db(), locals.actor!, params.number, given.reference ?? '');
    if (given.parts)
      await answerClaim(db(), locals.actor!, params.number, {
        parts: given.parts,
        ...(given.reference === undefined ? {} : { reference: given.reference })
      });
    return jsonResponse(await found(params.number));
  });
