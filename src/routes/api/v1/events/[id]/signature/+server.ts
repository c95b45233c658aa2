import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { notFound } from '$lib/server/kernel/problem.ts';
import { rowId } from '$lib/server/kernel/row-id.ts';
import { keepGlassSignature, readDrawing } from '$lib/server/ledger/glass-signature.ts';
import { GlassSignature } from '$lib/server/ledger/schemas.ts';

const idOf = (text: string): number => rowId(text) ?? notFound('event', text);

/** What was drawn. */
export const GET: RequestHandler = ({ params }) =>
  answering(async () => {
    const png = await readDrawing(db(), idOf(params.id));
    return new Response(Buffer.from(png), {
      headers: {
        'content-type': 'image/png',
        'cache-control': 'private, max-age=86400',
        'content-security-policy': "default-src 'none'"
      }
    });
  });

/** Somebody signs on glass for goods that changed hands: once, and for ever. */
export const PUT: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const given = await readBody(request, GlassSignature);
    const id = idOf(params.id);
    return jsonResponse(await keepGlassSignature(db(), locals.actor!, id, given), 201);
  });
