import {
  redirect,
  type Handle,
  type HandleServerError,
  type RequestEvent,
  type ServerInit
} from '@sveltejs/kit';
import { keptPage } from '$lib/server/http/kept-pages.ts';
import { answering } from '$lib/server/http/answer.ts';
import { actorOfSession, actorOfToken } from '$lib/server/people/sign-in.ts';
import { needOf, rightsOf } from '$lib/server/http/route-rights.ts';
import { SESSION_COOKIE } from '$lib/server/people/session-cookie.ts';
import { requireOneRight } from '$lib/server/kernel/rights.ts';
import { Problem } from '$lib/server/kernel/problem.ts';
import { db } from '$lib/server/kernel/db/client.ts';
import { securityKindOf } from '$lib/core/people/security-event.ts';
import { logSecurity } from '$lib/server/people/security-log.ts';
import { startReminding } from '$lib/server/recall/reminding.ts';
import { startMailing } from '$lib/server/service/mailing.ts';
import { startSealing } from '$lib/server/seal/sealing.ts';
import { startApplicationEngine } from '$lib/server/trace/engine/engines.ts';

/**
 * The index of the genealogy is packed beside the first requests; until it is there, SQL answers.
 * Reminders of recalls go out when they are due, and mail where a server is set for it; the ledger is
 * sealed.
 */
export const init: ServerInit = () => {
  startApplicationEngine();
  startReminding();
  startMailing();
  startSealing();
};

const HEADERS: Record<string, string> = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(self), microphone=(), geolocation=()'
};

/** A request that changes something with a browser's cookie must come from our own pages. */
function sameOrigin(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin');
  if (origin !== null) return origin === url.origin;
  return ['same-origin', 'none', null].includes(request.headers.get('sec-fetch-site'));
}

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
  const { request, url, cookies, locals, route } = event;
  const isApi = url.pathname.startsWith('/api/');
  locals.actor = null;
  const refused = await guard();
  const answer = async (): Promise<Response> => resolve(event);
  let response =
    refused ??
    (isForAll(event) ? await keptPage(`${url.origin}${url.pathname}`, answer) : await answer());
  if (isApi && response.status === 405)
    response = await answering(() => {
      throw notTaken();
    });
  for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
  if (!isApi && response.headers.get('content-type')?.startsWith('text/html'))
    response.headers.set('cache-control', 'no-store');
  await keepInLog(event, response);
  return response;

  function notTaken(): Problem {
    return new Problem(405, 'That cannot be done here', [
      {
        code: 'request.malformed',
        path: '',
        message: `${request.method} is not something ${url.pathname} takes. See /api/v1/openapi.json for what it does.`
      }
    ]);
  }

  /**
   * Who is asking, and whether they may; the refusal where they may not. Throws a redirect to the
   * sign-in page.
   */
  async function guard(): Promise<Response | null> {
    const bearer = /^Bearer (\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1];
    const cookie = cookies.get(SESSION_COOKIE);
    if (route.id !== '/api/health' && (bearer || cookie)) {
      const failed = await answering(async () => {
        locals.actor =
          bearer && isApi
            ? await actorOfToken(db(), bearer)
            : cookie
              ? await actorOfSession(db(), cookie)
              : null;
        return new Response(null, { status: 204 });
      });
      if (failed.status !== 204) return failed;
    }
    if (
      !bearer &&
      request.method !== 'GET' &&
      request.method !== 'HEAD' &&
      !sameOrigin(request, url)
    ) {
      return answering(() => {
        throw new Problem(403, 'This request did not come from Earmark', [
          {
            code: 'right.missing',
            path: 'Origin',
            message:
              "Requests with a sign-in cookie are taken from Earmark's own pages only. Scripts use a bearer token."
          }
        ]);
      });
    }
    if (!route.id)
      return isApi
        ? answering(() => {
            throw new Problem(404, 'There is no such address', [
              {
                code: 'request.malformed',
                path: '',
                message: `Nothing is at ${url.pathname}. See /api/v1/openapi.json for what there is.`
              }
            ]);
          })
        : null;
    const need = needOf(route.id, request.method);
    if (need === 'nobody') return null;
    if (!locals.actor && !isApi)
      redirect(303, `/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
    return answeringOrNull(() => {
      if (!locals.actor)
        throw new Problem(401, 'Sign in first', [
          {
            code: 'right.missing',
            path: '',
            message: bearer
              ? 'The token is unknown or was revoked. Ask an administrator for another.'
              : 'Your sign-in is missing or has expired. Sign in again; what you typed is still there.'
          }
        ]);
      if (need === null) throw notTaken();
      requireOneRight(locals.actor, rightsOf(route.id!, request.method));
    });
  }

  async function answeringOrNull(check: () => void): Promise<Response | null> {
    const response = await answering(async () => {
      check();
      return new Response(null, { status: 204 });
    });
    if (response.status === 204) return null;
    if (isApi) return response;
    const { errors } = (await response.json()) as { errors: { message: string }[] };
    return new Response(refusalPage(errors[0]?.message ?? ''), {
      status: response.status,
      headers: { 'content-type': 'text/html; charset=utf-8' }
    });
  }
};

/** The page somebody sees who opens a screen their role does not have. */
const refusalPage = (message: string): string =>
  `<!doctype html><html lang="en-GB"><meta charset="utf-8"><title>Not for your role · Earmark</title><h1>Not for your role</h1><p>${message.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`)}</p><p><a href="/">Back to Today</a></p></html>`;

export const handleError: HandleServerError = ({ error, status, event }) => {
  if (status === 404) return { message: 'There is nothing at this address.' };
  const reference = Math.random().toString(36).slice(2, 10);
  console.error(`[${reference}] ${event.request.method} ${event.url.pathname}`, error);
  return {
    message: `Something went wrong in Earmark. Tell your administrator the reference ${reference}.`
  };
};
