import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { BenchScan } from '$lib/server/making/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { readScan } from '$lib/server/making/build-scan.ts';
import { today } from '$lib/server/kernel/clock.ts';

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
