import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { confirmPassword } from '$lib/server/people/account/confirm-password.ts';
import { siteOf } from '$lib/server/people/account/passkeys.ts';
import { addPasskey, withoutPasskey } from '$lib/server/people/account/set-up-factor.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { Confirmed, NewPasskey } from '$lib/server/people/schemas.ts';

export const POST: RequestHandler = ({ request, locals, url }) =>
  answering(async () => {
    const given = await readBody(request, NewPasskey);
    return jsonResponse(await addPasskey(db(), selfOf(locals), siteOf(url), given), 201);
  });

export const DELETE: RequestHandler = ({ request, locals, url }) =>
  answering(async () => {
    const self = selfOf(locals);
    await confirmPassword(db(), self, (await readBody(request, Confirmed)).password);
    await withoutPasskey(db(), self, Number(url.searchParams.get('id')) || 0);
    return new Response(null, { status: 204 });
  });
