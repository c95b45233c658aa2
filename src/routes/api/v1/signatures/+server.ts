import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { NewSignature } from '$lib/server/people/schemas.ts';
import { sign } from '$lib/server/people/signatures.ts';

/** Whoever does an act, or a second person, signs it just before it is done. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () =>
    jsonResponse(await sign(db(), locals.actor!, await readBody(request, NewSignature)), 201)
  );
