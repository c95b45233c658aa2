import type { RequestHandler } from './$types';
import { epcisQueryApart } from '$lib/server/files-apart.ts';
import { answering } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { EpcisEventsQuery } from '$lib/server/exchange/schemas.ts';

/**
 * Events by the standard's parameters, as an EPCISQueryDocument; the next page is named in the
 * header Link.
 */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { body, next } = await epcisQueryApart(readQuery(url, EpcisEventsQuery));
    const following = new URL(url);
    if (next) following.searchParams.set('nextPageToken', next);
    return new Response(body as Uint8Array<ArrayBuffer>, {
      headers: {
        'content-type': 'application/ld+json',
        'cache-control': 'no-store',
        ...(next ? { link: `<${following.pathname}${following.search}>; rel="next"` } : {})
      }
    });
  });
