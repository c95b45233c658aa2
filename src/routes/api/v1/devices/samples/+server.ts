import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { db } from '$lib/server/db/client';
import { probeState } from '$lib/server/devices/probe';
import { today } from '$lib/server/today';
import { samplesFor } from '$lib/server/devices/samples';

/** What the simulated devices have to offer on a screen. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () =>
    jsonResponse({
      samples: await samplesFor(db(), url.searchParams.get('path') ?? '', today()),
      probe: probeState()
    })
  );
