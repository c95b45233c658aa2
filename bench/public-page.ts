import { connect, type Socket } from 'node:net';
import { randomBytes } from 'node:crypto';
import { apiOf, type Api } from './api.ts';
import type { Bench } from './bench.ts';
import { compare, type Measured } from './measure.ts';
import { serve } from './serve.ts';

const TOKEN = 'token-of-the-benchmarks';
/** Bookings of a turn, one after the other: about two seconds. */
const BOOKINGS = 250;
const REQUESTS_A_SECOND = 500,
  CONNECTIONS = 4,
  TICK_MS = 10,
  TURNS = 5;

/**
 * Receipts of one serial over HTTP beside 500 requests a second for the public page of a job,
 * against the same without.
 */
export async function publicPage(_: Bench): Promise<Measured> {
  const served = await serve({ token: TOKEN });
  try {
    const api = apiOf(served.port, TOKEN);
    const path = await publicPath(api);
    const book = async (): Promise<void> => {
      for (let n = 0; n < BOOKINGS; n++) await bookOne(api);
    };
    const beside = async (): Promise<void> => {
      const visitors = visit(served.port, path);
      await book();
      const { sent, answered } = visitors.end();
      if (answered < sent * 0.99 - CONNECTIONS) throw new Error(`${answered} of ${sent} answered`);
    };
    return await compare('public-500', BOOKINGS, beside, book, TURNS);
  } finally {
    await served.stop();
  }
}

/** Switches the public pages on; the address of one. */
async function publicPath(api: Api): Promise<string> {
  const settings = { tracking: true, unitPages: true, howToSend: '', shows: ['recall'], tells: [] };
  await api('PUT', 'service-settings', settings);
  const { rows } = (await api('GET', 'service-jobs')) as { rows: { number: string }[] };
  const { job } = (await api('GET', `service-jobs/${rows[0]!.number}`)) as {
    job: { tracking: string };
  };
  return `/track/${job.tracking}`;
}

async function bookOne(api: Api): Promise<void> {
  const serial = `PP-${randomBytes(6).toString('hex')}`;
  const line = { product: 'HEAD-A', place: 'DN-BENCH', quantity: '1', marks: [{ serial }] };
  await api('POST', 'receipts', { document: serial, supplier: 'PELLWORM', lines: [line] });
}

/** Asks for the page so often, whatever it takes to answer, as cheaply as can be. */
function visit(port: number, path: string): { end: () => { sent: number; answered: number } } {
  let sent = 0,
    answered = 0;
  const connections: Socket[] = Array.from({ length: CONNECTIONS }, () =>
    connect(port, '127.0.0.1').on('data', (chunk) => {
      answered += chunk.toString('latin1').split('HTTP/1.1 200').length - 1;
    })
  );
  const text = `GET ${path} HTTP/1.1\r\nHost: localhost:${port}\r\n\r\n`;
  const began = performance.now();
  const timer = setInterval(() => {
    const due = Math.floor(((performance.now() - began) / 1000) * REQUESTS_A_SECOND);
    for (; sent < due; sent++) connections[sent % CONNECTIONS]!.write(text);
  }, TICK_MS);
  return {
    end: () => {
      clearInterval(timer);
      for (const connection of connections) connection.destroy();
      return { sent, answered };
    }
  };
}
