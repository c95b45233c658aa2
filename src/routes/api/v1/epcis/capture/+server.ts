import type { RequestHandler } from './$types';
import { z } from 'zod';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { captureEvents } from '$lib/server/exchange/capture.ts';

/**
 * Captures an EPCIS 2.0 document: 201 where anything of it is new, 200 where all of it was sent
 * before.
 */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const captured = await captureEvents(db(), locals.actor!, await readBody(request, z.unknown()));
    return jsonResponse(captured, captured.fresh > 0 ? 201 : 200);
  });
