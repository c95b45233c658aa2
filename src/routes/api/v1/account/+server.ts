import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readAccount } from '$lib/server/people/account/read-account.ts';
import { selfOf } from '$lib/server/people/account/self.ts';

export const GET: RequestHandler = ({ locals }) =>
  answering(async () => jsonResponse(await readAccount(db(), selfOf(locals))));
