import type { RequestHandler } from './$types';
import { hasRoom, newsStream } from '$lib/server/frame/news-stream.ts';

/** What others change, as it is committed; the screens read it anew. */
export const GET: RequestHandler = () =>
  hasRoom()
    ? new Response(newsStream(), {
        headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' }
      })
    : new Response('Too many screens listen; this one shows what is new when it is read anew.', {
        status: 503
      });
