import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { changePassword } from '$lib/server/people/account/change-password.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { PasswordChange } from '$lib/server/people/schemas.ts';

export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    await changePassword(db(), selfOf(locals), await readBody(request, PasswordChange));
    return new Response(null, { status: 204 });
  });
