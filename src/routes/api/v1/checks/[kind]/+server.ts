import type { RequestEvent } from '@sveltejs/kit';
import type { z } from 'zod';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { Amendment, Correction, Identification, Move } from '$lib/server/stock/schemas.ts';
import { Build, Repack, Teardown } from '$lib/server/making/schemas.ts';
import { GoodsReturn, Packing, Shipment } from '$lib/server/shipping/schemas.ts';
import { QualityDecision } from '$lib/server/quality/schemas.ts';
import { Receipt } from '$lib/server/receiving/schemas.ts';
import { Reversal } from '$lib/server/ledger/schemas.ts';
import { amend } from '$lib/server/stock/amend.ts';
import { check, type BookingKind, type Circumstances } from '$lib/server/ledger/book.ts';
import { build } from '$lib/server/making/build.ts';
import { correct } from '$lib/server/stock/correct.ts';
import { giveNumbers } from '$lib/server/stock/give-numbers.ts';
import { move } from '$lib/server/stock/move.ts';
import { pack } from '$lib/server/shipping/pack.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { quality } from '$lib/server/quality/decide-quality.ts';
import { receive } from '$lib/server/receiving/receive.ts';
import { repack } from '$lib/server/making/repack.ts';
import { goodsReturn } from '$lib/server/shipping/return.ts';
import { reverse } from '$lib/server/ledger/reverse.ts';
import { ship } from '$lib/server/shipping/ship.ts';
import { teardown } from '$lib/server/making/teardown.ts';
import { db } from '$lib/server/kernel/db/client.ts';

const checking =
  <R extends Circumstances>(kind: BookingKind<R>, schema: z.ZodType<R>) =>
  async ({ request, locals }: RequestEvent) =>
    jsonResponse(await check(db(), kind, locals.actor!, await readBody(request, schema)));

const KINDS: Record<string, (event: RequestEvent) => Promise<Response>> = {
  receipts: checking(receive, Receipt),
  builds: checking(build, Build),
  shipments: checking(ship, Shipment),
  packings: checking(pack, Packing),
  returns: checking(goodsReturn, GoodsReturn),
  repacks: checking(repack, Repack),
  teardowns: checking(teardown, Teardown),
  reversals: checking(reverse, Reversal),
  corrections: checking(correct, Correction),
  moves: checking(move, Move),
  identifications: checking(giveNumbers, Identification),
  amendments: checking(amend, Amendment),
  'quality-decisions': checking(quality, QualityDecision)
};

/** The verdict on a booking, without booking it. */
export const POST = (event: RequestEvent) =>
  answering(() => {
    const run = KINDS[event.params.kind ?? ''];
    if (!run)
      throw new Problem(404, 'There is no such kind of booking', [
        {
          code: 'request.malformed',
          path: 'kind',
          message: `Use one of ${Object.keys(KINDS).join(', ')}.`
        }
      ]);
    return run(event);
  });
