import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BookingSheet } from './booking-sheet.svelte.ts';

interface Sent {
  method: string;
  path: string;
  key: string | null;
  body: { body?: { key?: string; rows?: string } } | null;
}

const BOOKED = {
  event: { id: 7, kind: 'receive', document: 'R', bookedAt: '2026-01-01T00:00:00Z' },
  marks: []
};
const KEPT = { keptAt: '2026-01-01T10:00:00Z' };

/** A server that answers as it is told, in the order it is asked. */
class Server {
  readonly sent: Sent[] = [];
  lost = new Set<string>();
  /** Requests held back until they are let go, by method. */
  readonly held = new Map<string, () => void>();
  hold: string | null = null;

  readonly fetch = async (path: string, init: RequestInit): Promise<Response> => {
    const method = init.method!;
    const headers = init.headers as Record<string, string>;
    const body = init.body ? JSON.parse(init.body as string) : null;
    this.sent.push({ method, path, key: headers['idempotency-key'] ?? null, body });
    if (this.hold === method) await new Promise<void>((go) => this.held.set(method, go));
    if (this.lost.has(method)) throw new TypeError('network');
    return new Response(JSON.stringify(method === 'POST' ? BOOKED : KEPT));
  };

  methods(): string[] {
    return this.sent.filter(({ path }) => !path.includes('/checks/')).map(({ method }) => method);
  }
  booking(): Sent {
    return this.sent.findLast(
      ({ method, path }) => method === 'POST' && !path.includes('/checks/')
    )!;
  }
  draft(): Sent {
    return this.sent.findLast(({ method }) => method === 'PUT')!;
  }
}

let server: Server;
let typed: string;
const sheetOf = (key?: string) =>
  new BookingSheet({
    kind: 'receipts',
    sheet: 'receive PO-1',
    body: () => ({ rows: typed }),
    request: () => ({ rows: typed }),
    kept: { key, keptAt: null },
    readonly: false
  });

beforeEach(() => {
  vi.useFakeTimers();
  server = new Server();
  typed = 'one';
  vi.stubGlobal('fetch', server.fetch);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('a sheet that is filled', () => {
  it('is kept a moment after the last change, and says so only when all of it is kept', async () => {
    const sheet = sheetOf();
    sheet.changed();
    await vi.advanceTimersByTimeAsync(500);
    sheet.changed();
    expect(sheet.keeping).toBe(true);
    await vi.advanceTimersByTimeAsync(700);
    expect(server.methods()).toEqual(['PUT']);
    expect([sheet.keeping, sheet.keptAt]).toEqual([false, KEPT.keptAt]);
  });
  it('is tried again where the line was lost', async () => {
    const sheet = sheetOf();
    server.lost.add('PUT');
    sheet.changed();
    await vi.advanceTimersByTimeAsync(700);
    expect(sheet.keeping).toBe(true);
    server.lost.clear();
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.methods()).toEqual(['PUT', 'PUT']);
    expect(sheet.keeping).toBe(false);
  });
});

describe('a booking', () => {
  it('keeps its key first: a reload after a lost answer sends the same key again', async () => {
    const sheet = sheetOf();
    sheet.changed();
    server.lost.add('POST');
    expect(await sheet.book()).toBeNull();
    expect(server.methods()).toEqual(['PUT', 'POST']);
    const { key } = server.draft().body!.body!;
    expect(server.booking().key).toBe(key);
    server.lost.clear();
    const reloaded = sheetOf(key);
    expect(await reloaded.book()).toMatchObject({ event: { id: 7 } });
    expect(server.booking().key).toBe(key);
  });
  it('is not sent where its key cannot be kept, and nothing typed is lost', async () => {
    const sheet = sheetOf();
    sheet.changed();
    server.lost.add('PUT');
    expect(await sheet.book()).toBeNull();
    expect(server.methods()).toEqual(['PUT']);
    expect(sheet.refusal?.status).toBe(0);
  });
  it('leaves no retry of the draft behind: booked rows never come back under a new key', async () => {
    const sheet = sheetOf();
    server.lost.add('PUT');
    sheet.changed();
    await vi.advanceTimersByTimeAsync(700); // lost: would be tried again in five seconds
    server.lost.clear();
    await sheet.book();
    await vi.advanceTimersByTimeAsync(20_000);
    expect(server.methods()).toEqual(['PUT', 'PUT', 'POST', 'DELETE']);
  });
  it('waits for a draft that is on its way, so that it is not kept after it was dropped', async () => {
    const sheet = sheetOf();
    server.hold = 'PUT';
    sheet.changed();
    await vi.advanceTimersByTimeAsync(700);
    const booking = sheet.book();
    await vi.advanceTimersByTimeAsync(0);
    expect(server.methods()).toEqual(['PUT']);
    server.hold = null;
    server.held.get('PUT')!();
    await booking;
    expect(server.methods()).toEqual(['PUT', 'POST', 'DELETE']);
  });
  it('starts a new sheet under a new key when more is typed after it', async () => {
    const sheet = sheetOf();
    sheet.changed();
    await sheet.book();
    const first = server.booking().key;
    typed = 'two';
    sheet.changed();
    await sheet.book();
    expect(server.booking().key).not.toBe(first);
    expect(server.draft().body!.body).toMatchObject({ rows: 'two', key: server.booking().key });
  });
});
