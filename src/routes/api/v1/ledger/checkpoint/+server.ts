import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readCheckpoint } from '$lib/server/seal/read-seal.ts';
import { CheckpointQuery } from '$lib/server/seal/schemas.ts';
import { sealNow } from '$lib/server/seal/sealing.ts';

/** The signed head of the sealed ledger, and that it goes on from an earlier one. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { from } = readQuery(url, CheckpointQuery);
    await sealNow();
    return jsonResponse(await readCheckpoint(db(), from));
  });
