import type { IncomingMessage, ServerResponse } from 'node:http';
import { LRUCache } from 'lru-cache';

/** How long a page stands that anybody may see: what it says is at most this old. */
const KEPT_MS = 3_000;
const MOST_PAGES = 1_000;

interface Kept {
  body: string;
  headers: [string, string][];
}
const pages = new LRUCache<string, Kept>({ max: MOST_PAGES, ttl: KEPT_MS, ttlResolution: 0 });

/**
 * A page that is the same for everybody, made once for all who ask for it at the same time: a link
 * that goes round does not slow those who work. What is refused, or meant for one browser, is made
 * anew for each.
 * @param address its origin and path, without what follows a question mark
 * @param make the whole answer, as it goes out
 */
export async function keptPage(address: string, make: () => Promise<Response>): Promise<Response> {
  const kept = pages.get(address);
  if (kept) return new Response(kept.body, { headers: kept.headers });
  const response = await make();
  if (response.status !== 200 || response.headers.has('set-cookie')) return response;
  const body = await response.text();
  const headers = [...response.headers];
  pages.set(address, { body, headers });
  return new Response(body, { headers });
}

/**
 * Answers a request whose page is kept before the framework is asked at all, which costs ten times
 * as much. Whoever comes with a sign-in or a token goes through the guard as always.
 * @returns whether it is answered
 */
export function answerKept(request: IncomingMessage, response: ServerResponse): boolean {
  const { method, headers, url = '' } = request;
  if (method !== 'GET' || headers.cookie || headers.authorization || !headers.host) return false;
  const [path] = url.split('?', 1);
  const kept = pages.get(`${originOf(headers)}${path}`);
  if (!kept) return false;
  response.writeHead(200, kept.headers.flat());
  response.end(kept.body);
  return true;
}

/** As the framework makes it of a request (scripts/start.mjs says which headers count). */
const originOf = (headers: IncomingMessage['headers']): string =>
  process.env.ORIGIN ?? `${String(headers['x-forwarded-proto'])}://${headers.host}`;

// For scripts/start.mjs, which knows only the built handler.
Object.assign(globalThis, { earmarkAnswerKept: answerKept });
