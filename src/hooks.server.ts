import type { Handle, HandleServerError, RequestEvent, ServerInit } from '@sveltejs/kit';
import { keptPage } from '$lib/server/http/kept-pages.ts';
import { problemResponse } from '$lib/server/http/answer.ts';
import { guard, notTaken } from '$lib/server/http/guard.ts';
import { loadAhead } from '$lib/server/http/load-ahead.ts';
import { isPaper, paperInTurn } from '$lib/server/http/papers.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { observeRequest } from '$lib/server/operating/metrics.ts';
import { securityKindOf } from '$lib/core/people/security-event.ts';
import { logSecurity } from '$lib/server/people/security-log.ts';
import { startReminding } from '$lib/server/recall/reminding.ts';
import { startMailing } from '$lib/server/service/mailing.ts';
import { startSealing } from '$lib/server/seal/sealing.ts';
import { startTelling } from '$lib/server/hooks/telling.ts';
import { startApplicationEngine } from '$lib/server/trace/engine/engines.ts';

/**
 * The index of the genealogy is packed beside the first requests; until it is there, SQL answers.
 * Reminders of recalls go out when they are due, and mail where a server is set for it; the ledger is
 * sealed, and hooks are told what is booked.
 */
export const init: ServerInit = async () => {
  await loadAhead();
  startApplicationEngine();
  startReminding();
  startMailing();
  startSealing();
  startTelling();
};

const HEADERS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(self), microphone=(), geolocation=()'
};

/**
 * What changes who may do what, what is refused, and what is taken away as a file stands in the
 * security log before it is answered.
 */
async function keepInLog(event: RequestEvent, response: Response): Promise<void> {
  const { request, route, url, locals } = event;
  const kind = securityKindOf({
    route: route.id ?? '',
    method: request.method,
    status: response.status,
    isFile: (response.headers.get('content-disposition') ?? '').startsWith('attachment')
  });
  if (!kind) return;
  const about = `${request.method} ${url.pathname}${url.search}`;
  const act = { kind, actor: locals.actor, address: event.getClientAddress(), about };
  await logSecurity(db(), act).catch((error: unknown) => {
    console.error('The security log could not be written.', error);
  });
}

/** Pages without sign-in that say the same to everybody. */
const FOR_ALL = ['/track/[tracking]', '/01/[gtin]/[...rest]'];
const isForAll = ({ request, route, isDataRequest }: RequestEvent): boolean =>
  request.method === 'GET' && !isDataRequest && FOR_ALL.includes(route.id ?? '');

export const handle: Handle = async ({ event, resolve }) => {
  const { request, url, locals } = event;
  const begun = performance.now();
  const isApi = url.pathname.startsWith('/api/');
  locals.actor = null;
  const refused = await guard(event);
  if (refused) return finished(refused);
  const answer = async (): Promise<Response> => resolve(event);
  if (isPaper(event.route.id ?? '', request.method)) return finished(await paperInTurn(answer));
  if (!isForAll(event)) return finished(await answer());
  return keptPage(`${url.origin}${url.pathname}`, async () => finished(await answer()));

  /** The answer as it goes out: what every answer says besides, and the log of what it was. */
  async function finished(answer: Response): Promise<Response> {
    const response =
      isApi && answer.status === 405 ? problemResponse(notTaken(request, url)) : answer;
    for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
    if (!isApi && response.headers.get('content-type')?.startsWith('text/html'))
      response.headers.set('cache-control', 'no-store');
    await keepInLog(event, response);
    const seconds = (performance.now() - begun) / 1000;
    observeRequest(event.route.id, request.method, response.status, seconds);
    return response;
  }
};

export const handleError: HandleServerError = ({ error, status, event }) => {
  if (status === 404) return { message: 'There is nothing at this address.' };
  const reference = Math.random().toString(36).slice(2, 10);
  console.error(`[${reference}] ${event.request.method} ${event.url.pathname}`, error);
  return {
    message: `Something went wrong in Earmark. Tell your administrator the reference ${reference}.`
  };
};
