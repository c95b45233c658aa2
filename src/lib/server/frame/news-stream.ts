import type { Topic } from '../../core/topics.ts';
import { db } from '../kernel/db/client.ts';
import { News } from './news.ts';

/** News of a fifth of a second goes out together. */
const GATHER_MS = 200;
/** So that whatever lies between does not take a silent line for a dead one. */
const PULSE_MS = 20_000;
/** Then the browser asks again, and is asked who it is. */
const ENDS_AFTER_MS = 10 * 60_000;
/** More than anybody has open; each holds a connection of the web server. */
const MOST_STREAMS = 1_000;

const news = new News(db);
const open = new Set<() => void>();

/** Lets scripts/start.mjs end them: a server does not stop while an answer goes on. */
Object.assign(globalThis, { earmarkEndNews: () => open.forEach((end) => end()) });

/** Whether there is room for one more. */
export const hasRoom = (): boolean => news.followers < MOST_STREAMS;

/**
 * What changes from now on, as server-sent events: a line of topics each time, nothing of what they
 * are about.
 */
export function newsStream(): ReadableStream<Uint8Array> {
  let end = (): void => {};
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const bytes = new TextEncoder();
      const send = (text: string): void => controller.enqueue(bytes.encode(text));
      const gathered = new Set<Topic>();
      let sending: NodeJS.Timeout | null = null;
      const tell = (topics: readonly Topic[]): void => {
        for (const topic of topics) gathered.add(topic);
        sending ??= setTimeout(() => {
          sending = null;
          send(`data: ${[...gathered].join(' ')}\n\n`);
          gathered.clear();
        }, GATHER_MS);
      };
      const leave = await news.follow(tell);
      const pulse = setInterval(() => send(': \n\n'), PULSE_MS);
      const last = setTimeout(() => end(), ENDS_AFTER_MS);
      end = () => {
        if (!open.delete(end)) return;
        leave();
        clearInterval(pulse);
        clearTimeout(last);
        if (sending) clearTimeout(sending);
        try {
          controller.close();
        } catch {
          // Who listened has gone already.
        }
      };
      open.add(end);
      send('retry: 1000\n\n');
    },
    cancel: () => end()
  });
}
