import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { askPasskey, siteOf } from '$lib/server/people/account/passkeys.ts';
import { selfOf } from '$lib/server/people/account/self.ts';

/** What a browser needs to ask for a passkey. */
export const POST: RequestHandler = ({ locals, url }) =>
  answering(async () => jsonResponse(await askPasskey(db(), selfOf(locals), siteOf(url))));
