import { vi } from 'vitest';
import { dockStore, type WaitingBooking } from '../store.ts';
import { waiting } from '../waiting.svelte.ts';

export interface Body {
  rows: string;
}
interface Sent {
  method: string;
  path: string;
  key: string | null;
  body: unknown;
}

export const SHEET = 'receive PO-1';
export const DRAFT = `/api/v1/drafts/${encodeURIComponent(SHEET)}`;
export const BOOKED = {
  event: { id: 7, kind: 'receive', document: 'PO-1', bookedAt: '' },
  marks: []
};

/** A server behind a line that can be cut, which books each key once. */
export class Server {
  isLost = false;
  /** What is refused, and with what status. */
  refusal: { status: number; message: string } | null = null;
  /** A booking is taken, and its answer lost. */
  losesAnswer = false;
  /** The line goes whenever a draft is sent. */
  losesDrafts = false;
  readonly sent: Sent[] = [];
  readonly booked = new Set<string>();

  readonly fetch = async (path: string, init: RequestInit = {}): Promise<Response> => {
    if (this.isLost) throw new TypeError('network');
    const method = init.method ?? 'GET';
    const key = (init.headers as Record<string, string>)?.['idempotency-key'] ?? null;
    const body = init.body ? (JSON.parse(init.body as string) as unknown) : null;
    this.sent.push({ method, path, key, body });
    if (method === 'PUT' && this.losesDrafts) throw new TypeError('network');
    if (path !== '/api/v1/receipts') return Response.json({ keptAt: '2026-12-01T10:00:00Z' });
    if (this.refusal) return this.refuse(this.refusal);
    this.booked.add(key!);
    if (this.losesAnswer) throw new TypeError('network');
    return Response.json(BOOKED);
  };

  private refuse({ status, message }: { status: number; message: string }): Response {
    return Response.json(
      { title: 'Not booked', errors: [{ code: 'x', path: '', message }] },
      { status }
    );
  }
}

/** A booking that waits on the device. */
export const left = (more: Partial<WaitingBooking> = {}): WaitingBooking => ({
  ...{ login: 'ines', sheet: SHEET, body: { rows: 'A-1' }, key: 'k-1', since: null },
  ...{ path: '/api/v1/receipts', document: 'PO-1', href: '/receive/PO-1', refused: null },
  ...{ request: { rows: 'A-1' }, at: '2026-12-01T10:00:00.000Z' },
  ...more
});

/** A device that keeps nothing yet, with ines signed in, and the server behind its line. */
export async function beginDock(): Promise<{ server: Server; end: () => void }> {
  const server = new Server();
  const listening = { addEventListener: () => {}, removeEventListener: () => {} };
  vi.stubGlobal('window', listening);
  vi.stubGlobal('navigator', {});
  vi.stubGlobal('fetch', server.fetch);
  await dockStore.forget();
  const end = waiting.begin('ines');
  await waiting.sendAll();
  return { server, end };
}
