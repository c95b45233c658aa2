import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { confirmPassword } from '$lib/server/people/account/confirm-password.ts';
import { dropBadge, keepBadge } from '$lib/server/people/account/badge.ts';
import { selfOf } from '$lib/server/people/account/self.ts';
import { Badge } from '$lib/server/people/schemas.ts';

export const PUT: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const self = selfOf(locals);
    const { password, ...given } = await readBody(request, Badge);
    await confirmPassword(db(), self, password);
    await keepBadge(db(), self.personId, given);
    return new Response(null, { status: 204 });
  });

export const DELETE: RequestHandler = ({ locals }) =>
  answering(async () => {
    await dropBadge(db(), selfOf(locals).personId);
    return new Response(null, { status: 204 });
  });
