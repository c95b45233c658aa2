import type { RequestHandler } from './$types';
import { knownText } from '$lib/core/ledger/known-text.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { knownForMoves } from '$lib/server/stock/known-for-moves.ts';

/** What a device keeps of what lies where, to move and put away without a line. */
export const GET: RequestHandler = () =>
  answering(async () => jsonResponse(knownText(await knownForMoves(db()))));
