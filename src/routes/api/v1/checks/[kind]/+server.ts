import type { RequestEvent } from '@sveltejs/kit';
import type { z } from 'zod';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import {
  Amendment,
  Build,
  Correction,
  GoodsReturn,
  Identification,
  Move,
  Packing,
  QualityDecision,
  Receipt,
  Repack,
  Reversal,
  Shipment,
  Teardown
} from '$lib/server/api/schemas';
import { amend } from '$lib/server/booking/amend';
import { check, type BookingKind, type Circumstances } from '$lib/server/booking/book';
import { build } from '$lib/server/booking/build';
import { correct } from '$lib/server/booking/correct';
import { giveNumbers } from '$lib/server/booking/give-numbers';
import { move } from '$lib/server/booking/move';
import { pack } from '$lib/server/booking/pack';
import { Problem } from '$lib/server/booking/problem';
import { quality } from '$lib/server/booking/quality';
import { receive } from '$lib/server/booking/receive';
import { repack } from '$lib/server/booking/repack';
import { goodsReturn } from '$lib/server/booking/return';
import { reverse } from '$lib/server/booking/reverse';
import { ship } from '$lib/server/booking/ship';
import { teardown } from '$lib/server/booking/teardown';
import { db } from '$lib/server/db/client';

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
