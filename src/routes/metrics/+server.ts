import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { metrics } from '$lib/server/operating/metrics.ts';

/** What Prometheus reads, with a token. */
export const GET: RequestHandler = () =>
  answering(async () => {
    const { type, text } = await metrics();
    return new Response(text, { headers: { 'content-type': type, 'cache-control': 'no-store' } });
  });
