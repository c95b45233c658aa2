import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { BenchScan } from '$lib/server/api/schemas';
import { db } from '$lib/server/db/client';
import { readScan } from '$lib/server/reading/build-scan';
import { today } from '$lib/server/today';

/** What a scan at the bench means for the unit in hand. Nothing is written. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answering(async () => {
    const { text, unit, filled } = await readBody(request, BenchScan);
    return jsonResponse(
      await readScan(
        db(),
        locals.actor!.personId,
        params.number,
        text,
        { serial: unit, filled },
        today()
      )
    );
  });
