import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { proveEvent } from '$lib/server/seal/read-seal.ts';
import { ProofQuery } from '$lib/server/seal/schemas.ts';
import { sealNow } from '$lib/server/seal/sealing.ts';

/** What shows that an event is in the sealed ledger; kept as a file it needs nothing more. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { event } = readQuery(url, ProofQuery);
    await sealNow();
    return jsonResponse(await proveEvent(db(), event));
  });
