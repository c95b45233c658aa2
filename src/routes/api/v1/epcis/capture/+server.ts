import type { RequestHandler } from './$types';
import { captureText } from '$lib/server/exchange/capture.ts';
import { captureApart } from '$lib/server/files-apart.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { checkIsJson } from '$lib/server/http/read-body.ts';
import { readJsonText } from '$lib/server/http/read-json.ts';
import { db } from '$lib/server/kernel/db/client.ts';

/** Characters of a document that is captured here: some two hundred events. A larger one goes apart. */
const SMALL = 50_000;

/**
 * Captures an EPCIS 2.0 document: 201 where anything of it is new, 200 where all of it was sent
 * before.
 */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    checkIsJson(request);
    const text = await readJsonText(request);
    const actor = locals.actor!;
    const captured =
      text.length <= SMALL ? await captureText(db(), actor, text) : await captureApart(actor, text);
    return jsonResponse(captured, captured.fresh > 0 ? 201 : 200);
  });
