import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { takeFactorsAway } from '$lib/server/people/account/set-up-factor.ts';

/** Takes away the second factors of somebody whose device is lost; never one's own. */
export const DELETE: RequestHandler = ({ params, locals }) =>
  answering(async () => {
    await takeFactorsAway(db(), locals.actor!, params.login);
    return new Response(null, { status: 204 });
  });
