import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { StationRead } from '$lib/server/making/schemas.ts';
import { readStation } from '$lib/server/making/station-read.ts';
import { db } from '$lib/server/kernel/db/client.ts';

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
