import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/api/answer';
import { readBody } from '$lib/server/api/read-body';
import { Probe } from '$lib/server/api/schemas';
import { readProbe, setProbe } from '$lib/server/devices/probe';

export const GET: RequestHandler = () => answering(async () => jsonResponse(readProbe()));

/** What the simulated probe shows from now on. */
export const PUT: RequestHandler = ({ request }) =>
  answering(async () => jsonResponse(setProbe(await readBody(request, Probe))));
