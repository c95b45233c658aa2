import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readFeed } from '$lib/server/seal/feed.ts';
import { FeedQuery } from '$lib/server/seal/schemas.ts';
import { sealNow } from '$lib/server/seal/sealing.ts';

/** Every event in the order of the ledger, for other systems. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { after, limit } = readQuery(url, FeedQuery);
    await sealNow();
    return jsonResponse(
      await readFeed(db(), after === undefined ? undefined : Number(after), limit)
    );
  });
