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
 * are about. Whoever asked may go at any time, also before it is followed.
 */
export function newsStream(source: Pick<News, 'follow'> = news): ReadableStream<Uint8Array> {
  let end = (): void => {};
  return new ReadableStream<Uint8Array>({
    async start(controller) {
      const line = new Line(controller);
      end = () => line.end();
      try {
        line.begin(await source.follow((topics) => line.tell(topics)));
      } catch {
        // The database does not answer: the browser asks again.
        line.end();
      }
    },
    cancel: () => end()
  });
}

/** What is sent to one who listens, until they go or it ends. */
class Line {
  readonly #controller: ReadableStreamDefaultController<Uint8Array>;
  readonly #bytes = new TextEncoder();
  readonly #gathered = new Set<Topic>();
  #sending: NodeJS.Timeout | null = null;
  #stop = (): void => {};
  #isOver = false;

  constructor(controller: ReadableStreamDefaultController<Uint8Array>) {
    this.#controller = controller;
  }

  /**
   * Once it is followed: is kept alive, and ends by itself after a while.
   * @param leave ends the following, which is done at once where whoever asked has gone meanwhile
   */
  begin(leave: () => void): void {
    if (this.#isOver) {
      leave();
      return;
    }
    const end = (): void => this.end();
    open.add(end);
    const pulse = setInterval(() => this.#send(': \n\n'), PULSE_MS);
    const last = setTimeout(end, ENDS_AFTER_MS);
    this.#stop = () => {
      leave();
      open.delete(end);
      clearInterval(pulse);
      clearTimeout(last);
    };
    this.#send('retry: 1000\n\n');
  }

  tell(topics: readonly Topic[]): void {
    for (const topic of topics) this.#gathered.add(topic);
    this.#sending ??= setTimeout(() => {
      this.#sending = null;
      this.#send(`data: ${[...this.#gathered].join(' ')}\n\n`);
      this.#gathered.clear();
    }, GATHER_MS);
  }

  end(): void {
    if (this.#isOver) return;
    this.#isOver = true;
    this.#stop();
    if (this.#sending) clearTimeout(this.#sending);
    try {
      this.#controller.close();
    } catch {
      // Who listened has gone already.
    }
  }

  /** Nothing may be thrown here: called by a timer, it would end the server. */
  #send(text: string): void {
    if (!this.#isOver) this.#controller.enqueue(this.#bytes.encode(text));
  }
}
