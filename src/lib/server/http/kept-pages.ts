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
 * @param path its address, without what follows a question mark
 */
export async function keptPage(path: string, make: () => Promise<Response>): Promise<Response> {
  const kept = pages.get(path);
  if (kept) return new Response(kept.body, { headers: kept.headers });
  const response = await make();
  if (response.status !== 200 || response.headers.has('set-cookie')) return response;
  const body = await response.text();
  const headers = [...response.headers];
  pages.set(path, { body, headers });
  return new Response(body, { headers });
}
