import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { idempotencyKey, readBody } from '$lib/server/http/read-body.ts';
import { PickBack, PickScan } from '$lib/server/shipping/schemas.ts';
import { pickByScan, putBack } from '$lib/server/shipping/pick-list.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { today } from '$lib/server/kernel/clock.ts';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const key = idempotencyKey(request);
    return jsonResponse(
      await pickByScan(
        db(),
        locals.actor!,
        params.number,
        key,
        await readBody(request, PickScan),
        today()
      )
    );
  });

export const DELETE: RequestHandler = ({ params, request, locals }) =>
  answering(async () =>
    jsonResponse(
      await putBack(
        db(),
        locals.actor!,
        params.number,
        (await readBody(request, PickBack)).pick,
        today()
      )
    )
  );
