/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
// Keeps the dock's pages and the application's own files on the device, for when the line is lost.
// With a line it changes nothing: what the server says is what is shown.
import { build, version } from '$service-worker';
import {
  dataOf,
  isDockData,
  isDockPage,
  isDockSheet,
  MOST_KEPT,
  noLinePage,
  type DockMessage
} from '$lib/ui/dock/kept-pages.ts';

const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const FILES = `files ${version}`;
const PAGES = 'pages of the dock';
const LOCKED = '/locked-here';

worker.addEventListener('install', () => void worker.skipWaiting());
worker.addEventListener('activate', (event) => {
  event.waitUntil(dropOldFiles().then(() => worker.clients.claim()));
});

worker.addEventListener('message', (event: ExtendableMessageEvent) => {
  event.waitUntil(heard(event.data as DockMessage, event.ports[0]));
});

async function heard(message: DockMessage, answer: MessagePort | undefined): Promise<void> {
  if ('keep' in message) answer?.postMessage(await keep(message.keep));
  else if ('forget' in message) await caches.delete(PAGES);
  else await setLocked(message.locked);
}

worker.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== worker.location.origin) return;
  if (pathname.startsWith('/_app/immutable/')) event.respondWith(file(request));
  else if (request.mode === 'navigate') event.respondWith(page(request, pathname));
  else if (isDockData(pathname)) event.respondWith(data(request, pathname));
});

async function dropOldFiles(): Promise<void> {
  const names = await caches.keys();
  const old = names.filter((name) => name.startsWith('files ') && name !== FILES);
  await Promise.all(old.map((name) => caches.delete(name)));
}

/** A file of the application: its name says what is in it, so a kept one is as good. */
async function file(request: Request): Promise<Response> {
  const files = await caches.open(FILES);
  const kept = await files.match(request);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) await files.put(request, answer.clone());
  return answer;
}

async function page(request: Request, path: string): Promise<Response> {
  try {
    const answer = await fetch(request);
    if (isDockPage(path) && isWhole(answer)) await put(path, answer.clone());
    return answer;
  } catch {
    return (await keptOf(path)) ?? new Response(await sayNoLine(), { status: 503, headers: HTML });
  }
}

async function data(request: Request, path: string): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const kept = await keptOf(path);
    if (!kept) throw error;
    return kept;
  }
}

const HTML = { 'content-type': 'text/html; charset=utf-8' };

async function sayNoLine(): Promise<string> {
  const kept = await (await caches.open(PAGES)).keys();
  const paths = kept.map(({ url }) => pathOf(url)).filter(isDockPage);
  return noLinePage(paths, await isLocked());
}

/**
 * Keeps a page, its data, and all files of the application, the last one after the other.
 * @returns whether all of it is kept
 */
async function keep(path: string): Promise<boolean> {
  if (!isDockPage(path)) return false;
  try {
    for (const one of [path, dataOf(path)]) {
      const answer = await fetch(one);
      if (!isWhole(answer)) return false;
      await put(one, answer);
    }
    const files = await caches.open(FILES);
    for (const one of build) if (!(await files.match(one))) await files.add(one);
    return true;
  } catch {
    return false;
  }
}

const isWhole = (answer: Response): boolean => answer.ok && !answer.redirected;

const match = async (path: string): Promise<Response | undefined> =>
  (await caches.open(PAGES)).match(path);

/** What is kept of a path; nothing where the device is locked. */
const keptOf = async (path: string): Promise<Response | undefined> =>
  (await isLocked()) ? undefined : match(path);

/** Keeps an answer as the newest, and no more than there may be. */
async function put(path: string, answer: Response): Promise<void> {
  const pages = await caches.open(PAGES);
  await pages.delete(path);
  await pages.put(path, answer);
  const sheets = (await pages.keys()).filter(({ url }) => isDockSheet(pathOf(url)));
  for (const old of sheets.slice(0, Math.max(0, sheets.length - MOST_KEPT))) {
    await pages.delete(old);
    await pages.delete(dataOf(pathOf(old.url)));
  }
}

const pathOf = (url: string): string => new URL(url).pathname;

async function setLocked(locked: boolean): Promise<void> {
  const pages = await caches.open(PAGES);
  if (locked) await pages.put(LOCKED, new Response(''));
  else await pages.delete(LOCKED);
}

const isLocked = async (): Promise<boolean> => (await match(LOCKED)) !== undefined;
