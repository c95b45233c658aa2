import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { probeState } from '$lib/server/frame/probe.ts';
import { today } from '$lib/server/kernel/clock.ts';
import { samplesFor } from '$lib/server/frame/samples.ts';

/** What the simulated devices have to offer on a screen. */
export const GET: RequestHandler = ({ url }) =>
  answering(async () =>
    jsonResponse({
      samples: await samplesFor(db(), url.searchParams.get('path') ?? '', today()),
      probe: await probeState(db())
    })
  );
