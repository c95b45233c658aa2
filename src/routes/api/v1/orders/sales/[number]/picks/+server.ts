import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { idempotencyKey, readBody } from '$lib/server/api/read-body';
import { PickBack, PickScan } from '$lib/server/api/schemas';
import { pickByScan, putBack } from '$lib/server/catalogue/pick-list';
import { db } from '$lib/server/db/client';
import { today } from '$lib/server/today';

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
      await putBack(db(), locals.actor!, params.number, (await readBody(request, PickBack)).pick)
    )
  );
