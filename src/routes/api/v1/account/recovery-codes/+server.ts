import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { confirmPassword } from '$lib/server/people/account/confirm-password.ts';
import { newRecoveryCodes } from '$lib/server/people/account/set-up-factor.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { Confirmed } from '$lib/server/people/schemas.ts';

export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const self = selfOf(locals);
    await confirmPassword(db(), self, (await readBody(request, Confirmed)).password);
    return jsonResponse({ recovery: await newRecoveryCodes(db(), self) }, 201);
  });
