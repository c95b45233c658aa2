// People at work while machines are lost: each books receipts, one after the other, and sends one
// whose answer was lost again under its key until it is answered.
import { setTimeout as pause } from 'node:timers/promises';

/** A booking that was acknowledged. */
export interface Acknowledged {
  document: string;
  /** When the attempt that was answered was sent, and when its answer came; milliseconds. */
  sentAt: number;
  at: number;
  attempts: number;
}

export interface Load {
  acknowledged: readonly Acknowledged[];
  /** Answers that were neither an acknowledgement nor a request to come again: status and text. */
  refused: readonly string[];
  /** Seconds from a moment to the first booking that was sent after it and acknowledged. */
  firstAfter: (moment: number, seconds: number) => Promise<number>;
  /** Lets each finish what was begun, for a minute at most. */
  end: () => Promise<void>;
}

/** So long one waits for an answer before it is asked again. */
const ANSWER_MS = 10_000;
const AGAIN_MS = 250;
/** What is not answered so long after the end is given up: it was never acknowledged. */
const GIVEN_UP_MS = 60_000;
/** Between two bookings of one person. */
const BETWEEN_MS = 150;
const LOAD_PRODUCT = { name: 'bearing', unit: 'each', decimals: 0, made: false, marking: 'serial' };

/** Rows of movements that each booking writes: one for each serial. */
export const MOVEMENTS_EACH = 2;

/** A receipt of two lines with a serial each. */
const receiptOf = (document: string): object => ({
  document,
  supplier: 'LOAD-S',
  lines: ['1', '2'].map((line) => ({
    product: 'LOAD-P',
    place: 'LOAD-D',
    quantity: '1',
    marks: [{ serial: `${document}-${line}` }]
  }))
});

interface Asked {
  status: number;
  text: string;
}

const askerAt = (url: string, token: string) => {
  const headers = { authorization: `Bearer ${token}`, 'content-type': 'application/json' };
  return async (method: string, path: string, body: object, key?: string): Promise<Asked> => {
    const answer = await fetch(`${url}/api/v1/${path}`, {
      method,
      headers: { ...headers, ...(key ? { 'idempotency-key': key } : {}) },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(ANSWER_MS)
    });
    return { status: answer.status, text: await answer.text() };
  };
};

/** Sets up what the receipts name. */
export async function prepareLoad(url: string, token: string): Promise<void> {
  const ask = askerAt(url, token);
  for (const [path, body] of [
    ['products/LOAD-P', LOAD_PRODUCT],
    ['partners/LOAD-S', { name: 'Supplier of the load', supplier: true }],
    ['places/LOAD-D', { name: 'Dock of the load', site: 'LOAD' }]
  ] as const) {
    const { status, text } = await ask('PUT', path, body);
    if (status >= 300) throw new Error(`${path}: ${status} ${text}`);
  }
}

/**
 * Begins to book.
 * @param url where people come in
 * @param clients how many book at a time
 */
export function beginLoad(url: string, token: string, clients: number): Load {
  const ask = askerAt(url, token);
  const acknowledged: Acknowledged[] = [];
  const refused: string[] = [];
  /** Known when it ends. */
  let givesUpAt: number | null = null;

  /** An answer; null where there was none, or one that says to come again. */
  const attempt = async (document: string): Promise<Asked | null> => {
    const answer = await ask('POST', 'receipts', receiptOf(document), document).catch(() => null);
    return answer === null || answer.status >= 500 ? null : answer;
  };
  const bookOne = async (document: string): Promise<void> => {
    for (let attempts = 1; ; attempts++) {
      const sentAt = Date.now();
      const answer = await attempt(document);
      if (answer === null) {
        if (givesUpAt !== null && Date.now() > givesUpAt) return;
        await pause(AGAIN_MS);
        continue;
      }
      if (answer.status < 300) acknowledged.push({ document, sentAt, at: Date.now(), attempts });
      else refused.push(`${document}: ${answer.status} ${answer.text}`);
      return;
    }
  };
  const work = async (client: number): Promise<void> => {
    for (let number = 1; givesUpAt === null; number++) {
      await bookOne(`LOAD-${client}-${number}`);
      await pause(BETWEEN_MS);
    }
  };
  const working = Promise.all(Array.from({ length: clients }, (_, client) => work(client + 1)));
  return {
    acknowledged,
    refused,
    firstAfter: (moment, seconds) => firstAfter(acknowledged, moment, seconds),
    end: async () => {
      givesUpAt = Date.now() + GIVEN_UP_MS;
      await working;
    }
  };
}

/**
 * The longest time in which nothing was acknowledged, in seconds.
 * @param acknowledged in the order of their answers
 * @param from, to milliseconds
 */
export function longestSilence(
  acknowledged: readonly Pick<Acknowledged, 'at'>[],
  from: number,
  to: number
): number {
  let [last, longest] = [from, 0];
  for (const { at } of acknowledged) {
    if (at <= from || at > to) continue;
    longest = Math.max(longest, at - last);
    last = at;
  }
  return Math.max(longest, to - last) / 1000;
}

const LOOK_MS = 20;

async function firstAfter(
  acknowledged: readonly Acknowledged[],
  moment: number,
  seconds: number
): Promise<number> {
  let seen = acknowledged.length;
  while (Date.now() < moment + seconds * 1000) {
    for (; seen < acknowledged.length; seen++) {
      const { sentAt, at } = acknowledged[seen]!;
      if (sentAt >= moment) return (at - moment) / 1000;
    }
    await pause(LOOK_MS);
  }
  throw new Error(`Nothing was booked for ${seconds} seconds.`);
}
