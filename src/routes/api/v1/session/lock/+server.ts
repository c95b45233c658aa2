import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { lockSession } from '$lib/server/people/account/lock.ts';
import { selfOf } from '$lib/server/people/account/self.ts';

export const POST: RequestHandler = ({ locals }) =>
  answering(async () => {
    await lockSession(db(), selfOf(locals).sessionId);
    return new Response(null, { status: 204 });
  });

/** Somebody is there: asked now and then while they read or type, so that the device stays open. */
export const GET: RequestHandler = () => answering(async () => new Response(null, { status: 204 }));
