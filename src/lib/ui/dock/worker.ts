import type { DockMessage } from './kept-pages.ts';

/**
 * Has the service worker there, for a device of the dock. Browsers give one only over https or on
 * the machine itself; elsewhere a sheet is still kept, but not the page around it.
 */
async function worker(): Promise<ServiceWorker | null> {
  if (!('serviceWorker' in navigator)) return null;
  const registered = await navigator.serviceWorker.register('/service-worker.js').catch(() => null);
  return registered && (await navigator.serviceWorker.ready).active;
}

/**
 * Keeps a page on this device, for when the line is lost.
 * @returns settles once it is kept with all it needs; false where it cannot be
 */
export async function keepPage(path: string): Promise<boolean> {
  const there = await worker();
  if (!there) return false;
  const { port1: answer, port2 } = new MessageChannel();
  const kept = new Promise<boolean>((done) => {
    answer.onmessage = ({ data }: MessageEvent<boolean>) => done(data);
  });
  there.postMessage({ keep: path } satisfies DockMessage, [port2]);
  return kept;
}

/** Tells the worker where there is one; none is started for it. */
export const tellWorker = async (message: DockMessage): Promise<void> => {
  const there = await navigator.serviceWorker?.getRegistration();
  there?.active?.postMessage(message);
};
