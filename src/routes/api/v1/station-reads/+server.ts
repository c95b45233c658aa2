import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { StationRead } from '$lib/server/api/schemas';
import { readStation } from '$lib/server/booking/station-read';
import { db } from '$lib/server/db/client';

/** Reads tags at a station. Reading the same tag twice moves nothing twice, so no key is asked. */
export const POST: RequestHandler = ({ request, locals }) =>
  answering(async () => {
    const { station, mode, reason, tags } = await readBody(request, StationRead);
    return jsonResponse(
      await readStation(
        db(),
        locals.actor!,
        station,
        mode,
        reason ?? null,
        tags ? tags.map((tag) => ({ epc: tag.epc, memory: tag.memory })) : null,
        new Date()
      )
    );
  });
