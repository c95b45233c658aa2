import type { RequestHandler } from './$types';
import { answering, jsonResponse, streamOfText } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { fileResponse } from '$lib/server/kernel/tables/write-table.ts';
import { proveMany } from '$lib/server/seal/prove-many.ts';
import { proveEvent } from '$lib/server/seal/read-seal.ts';
import { ProofQuery } from '$lib/server/seal/schemas.ts';
import { sealNow } from '$lib/server/seal/sealing.ts';
import {
  restsCase,
  restsCertificate,
  restsTrace,
  type Rests
} from '$lib/server/seal/what-rests.ts';

async function fileOf({ of, file, events }: Rests): Promise<Response> {
  const pieces = await proveMany(db(), of, events);
  return fileResponse({
    body: streamOfText(pieces),
    type: 'application/json',
    name: `${file}.json`
  });
}

/**
 * What shows that an event, or all that a trace, a recall or a certificate rests on, is in the
 * sealed ledger; kept as a file it needs nothing more.
 */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { event, trace, case: recall, certificate } = readQuery(url, ProofQuery);
    await sealNow();
    if (trace !== undefined) return fileOf(await restsTrace(db(), url, trace));
    if (recall !== undefined) return fileOf(await restsCase(db(), recall));
    if (certificate !== undefined) return fileOf(await restsCertificate(db(), certificate));
    return jsonResponse(await proveEvent(db(), event!));
  });
