import type { RequestHandler } from './$types';
import { answering } from '$lib/server/http/answer.ts';
import { readQuery } from '$lib/server/http/read-body.ts';
import { EpcisEventsQuery } from '$lib/server/exchange/schemas.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { queryEvents } from '$lib/server/exchange/query.ts';
import { OUR_CONTEXT } from '$lib/server/exchange/write-events.ts';

/**
 * Events by the standard's parameters, as an EPCISQueryDocument; the next page is named in the
 * header Link.
 */
export const GET: RequestHandler = ({ url }) =>
  answering(async () => {
    const { events, next } = await queryEvents(db(), readQuery(url, EpcisEventsQuery));
    const following = new URL(url);
    if (next) following.searchParams.set('nextPageToken', next);
    const document = {
      '@context': ['https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld', OUR_CONTEXT],
      type: 'EPCISQueryDocument',
      schemaVersion: '2.0',
      creationDate: new Date().toISOString(),
      epcisBody: {
        queryResults: { queryName: 'SimpleEventQuery', resultsBody: { eventList: events } }
      }
    };
    return new Response(JSON.stringify(document), {
      headers: {
        'content-type': 'application/ld+json',
        'cache-control': 'no-store',
        ...(next ? { link: `<${following.pathname}${following.search}>; rel="next"` } : {})
      }
    });
  });
