import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { confirmPassword } from '$lib/server/people/account/confirm-password.ts';
import { confirmTimeCode, withoutTimeCode } from '$lib/server/people/account/set-up-factor.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { offerTimeCode } from '$lib/server/people/account/time-codes.ts';
import { Code, Confirmed } from '$lib/server/people/schemas.ts';

/** A secret for a program that shows codes; it counts once a code of it is sent. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const self = selfOf(locals);
    await confirmPassword(db(), self, (await readBody(request, Confirmed)).password);
    return jsonResponse(await offerTimeCode(db(), self), 201);
  });

export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const { code } = await readBody(request, Code);
    return jsonResponse(await confirmTimeCode(db(), selfOf(locals), code));
  });

export const DELETE: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const self = selfOf(locals);
    await confirmPassword(db(), self, (await readBody(request, Confirmed)).password);
    await withoutTimeCode(db(), self);
    return new Response(null, { status: 204 });
  });
