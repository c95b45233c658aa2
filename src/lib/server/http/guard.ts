import { redirect, type RequestEvent } from '@sveltejs/kit';
import { db } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';
import { requireOneRight } from '../kernel/rights.ts';
import { SESSION_COOKIE } from '../people/session-cookie.ts';
import { actorOfSession, actorOfToken } from '../people/sign-in.ts';
import { answering, problemResponse } from './answer.ts';
import { needOf, rightsOf } from './route-rights.ts';
import { isOpenWhile, pageOfWait, waitProblem } from './waiting.ts';

/** What programs ask: with a token, and refused in JSON. */
const isApi = (url: URL): boolean =>
  url.pathname.startsWith('/api/') || url.pathname === '/metrics';

/** A request that changes something with a browser's cookie must come from our own pages. */
function sameOrigin(request: Request, url: URL): boolean {
  const origin = request.headers.get('origin');
  if (origin !== null) return origin === url.origin;
  return ['same-origin', 'none', null].includes(request.headers.get('sec-fetch-site'));
}

const bearerOf = (request: Request): string | undefined =>
  /^Bearer (\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1];

/**
 * Who is asking, and whether they may: sets `locals.actor`, and gives the refusal where they may
 * not. Throws a redirect to the page that must come first.
 */
export async function guard(event: RequestEvent): Promise<Response | null> {
  const { request, url, route, locals } = event;
  if (route.id !== '/api/health') {
    const failed = await refusalOf(async () => {
      locals.actor = await actorOf(event);
    });
    if (failed) return failed;
  }
  if (!bearerOf(request) && changes(request) && !sameOrigin(request, url))
    return problemResponse(foreign());
  if (!route.id) return isApi(url) ? problemResponse(noSuchAddress(url)) : null;
  const need = needOf(route.id, request.method);
  if (need === 'nobody') return null;
  const { actor } = locals;
  if (!actor && !isApi(url))
    redirect(303, `/sign-in?to=${encodeURIComponent(url.pathname + url.search)}`);
  const isHeldUp = actor?.wait != null && !isOpenWhile(actor.wait, route.id);
  if (isHeldUp && !isApi(url)) redirect(303, pageOfWait(actor.wait!, url.pathname + url.search));
  const refused = await refusalOf(async () => {
    if (!actor) throw signInFirst(request);
    if (need === null) throw notTaken(request, url);
    if (isHeldUp) throw waitProblem(actor.wait!);
    if (need === 'self') requireSession(actor.via);
    else requireOneRight(actor, rightsOf(route.id!, request.method));
  });
  return refused && !isApi(url) ? asPage(refused) : refused;
}

const changes = ({ method }: Request): boolean => method !== 'GET' && method !== 'HEAD';

async function actorOf({ request, cookies, url }: RequestEvent) {
  const bearer = bearerOf(request);
  if (bearer && isApi(url)) return actorOfToken(db(), bearer);
  const cookie = cookies.get(SESSION_COOKIE);
  return cookie ? actorOfSession(db(), cookie) : null;
}

/** Runs a check; the refusal it throws as an answer, or null. */
async function refusalOf(check: () => Promise<void>): Promise<Response | null> {
  const response = await answering(async () => {
    await check();
    return new Response(null, { status: 204 });
  });
  return response.status === 204 ? null : response;
}

/** A refusal as a page, for who opened a screen. */
async function asPage(refused: Response): Promise<Response> {
  const { errors } = (await refused.json()) as { errors: { message: string }[] };
  return new Response(refusalPage(errors[0]?.message ?? ''), {
    status: refused.status,
    headers: { 'content-type': 'text/html; charset=utf-8' }
  });
}

/** The page somebody sees who opens a screen their role does not have. */
const refusalPage = (message: string): string =>
  `<!doctype html><html lang="en-GB"><meta charset="utf-8"><title>Not for your role · Earmark</title><h1>Not for your role</h1><p>${message.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`)}</p><p><a href="/">Back to Today</a></p></html>`;

function requireSession(via: 'session' | 'token'): void {
  if (via === 'session') return;
  throw new Problem(403, 'An account is its person’s', [
    {
      code: 'right.missing',
      path: '',
      message: 'A token cannot look after an account. Sign in, and do it there.'
    }
  ]);
}

const signInFirst = (request: Request): Problem =>
  new Problem(401, 'Sign in first', [
    {
      code: 'right.missing',
      path: '',
      message: bearerOf(request)
        ? 'The token is unknown or was revoked. Ask an administrator for another.'
        : 'Your sign-in is missing or has expired. Sign in again; what you typed is still there.'
    }
  ]);

const foreign = (): Problem =>
  new Problem(403, 'This request did not come from Earmark', [
    {
      code: 'right.missing',
      path: 'Origin',
      message:
        "Requests with a sign-in cookie are taken from Earmark's own pages only. Scripts use a bearer token."
    }
  ]);

const noSuchAddress = (url: URL): Problem =>
  new Problem(404, 'There is no such address', [
    {
      code: 'request.malformed',
      path: '',
      message: `Nothing is at ${url.pathname}. See /api/v1/openapi.json for what there is.`
    }
  ]);

export const notTaken = (request: Request, url: URL): Problem =>
  new Problem(405, 'That cannot be done here', [
    {
      code: 'request.malformed',
      path: '',
      message: `${request.method} is not something ${url.pathname} takes. See /api/v1/openapi.json for what it does.`
    }
  ]);
