import type { RequestHandler } from './$types';
import { answering, jsonResponse } from '$lib/server/http/answer.ts';
import { readBody } from '$lib/server/http/read-body.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { Probe } from '$lib/server/frame/schemas.ts';
import { readProbe, setProbe } from '$lib/server/frame/probe.ts';

export const GET: RequestHandler = () => answering(async () => jsonResponse(await readProbe(db())));

/** What the simulated probe shows from now on. */
export const PUT: RequestHandler = ({ request }) =>
  answering(async () => jsonResponse(await setProbe(db(), await readBody(request, Probe))));
