import { invalidateAll } from '$app/navigation';
import { send, type Refusal } from '../frame/api.ts';
import { keys, type ScreenKey } from '../frame/keys.svelte.ts';
import { newKey } from '../frame/new-key.ts';

export interface Fault {
  code: string;
  path: string;
  number?: string;
  message: string;
  answer?: 'reason';
}
export interface Note {
  path: string;
  number?: string;
  message: string;
}
export interface BookedMark {
  id: number;
  product: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  onHand: string;
  state: 'usable' | 'held' | 'rejected';
}
export interface Booked {
  event: { id: number; kind: string; document: string; bookedAt: string };
  marks: BookedMark[];
}

interface Options<Body> {
  /** Kind of booking as the API names it: `receipts`. */
  kind: 'receipts' | 'builds' | 'shipments' | 'identifications';
  /** Name the draft is kept under. */
  sheet: string;
  /** What is kept as the draft. */
  body: () => Body;
  /** The numbers that stand on the sheet, for the draft; others are told of the same number. */
  numbers?: () => string[];
  /** The booking as it would be sent; null where there is nothing to book yet. */
  request: () => object | null;
  /** What was kept before, and when. */
  kept: { key?: string; keptAt: string | null };
  readonly: boolean;
}

/**
 * The number grid's own keys, for the list of keys; the grid handles them where they are pressed.
 */
const GRID_KEYS: readonly ScreenKey[] = [
  ['Ctrl+D', 'in a cell: fill the rows below with it'],
  ['Ctrl+Z', 'in a cell: take the last change back'],
  ['Ctrl+Delete', 'in a cell: remove the row']
].map(([key, says]) => ({ key: key!, says: says!, act: () => {} }));

/**
 * The state a working sheet shares with every other: the draft kept on the server, the verdict on
 * what stands there, and the booking itself. The idempotency key lives in the draft, so a booking
 * sent twice, even after a reload, books once.
 */
export class BookingSheet<Body extends object> {
  faults = $state.raw<readonly Fault[]>([]);
  notes = $state.raw<readonly Note[]>([]);
  /** Numbers that stand on somebody else's draft too, as `PRODUCT kind NUMBER`. */
  drafts = $state.raw<readonly { number: string; who: string }[]>([]);
  /** The booking whose verdict is shown is the one that stands on the sheet. */
  judged = $state(false);
  keptAt = $state<string | null>(null);
  keeping = $state(false);
  booking = $state(false);
  refusal = $state.raw<Refusal | null>(null);
  booked = $state.raw<Booked | null>(null);
  private key: string;
  private judging: ReturnType<typeof setTimeout> | undefined;
  private saving: ReturnType<typeof setTimeout> | undefined;
  private turn = 0;

  constructor(private readonly options: Options<Body>) {
    this.key = options.kept.key ?? newKey();
    this.keptAt = options.kept.keptAt;
  }

  /** After every change of the sheet: judge and keep it, a moment later. */
  changed(): void {
    this.refusal = null;
    this.judgeSoon();
    if (this.options.readonly) return;
    clearTimeout(this.saving);
    this.saving = setTimeout(() => void this.keep(), 700);
  }

  judgeSoon(): void {
    this.judged = false;
    clearTimeout(this.judging);
    this.judging = setTimeout(() => void this.judge(), 220);
  }

  async judge(): Promise<void> {
    const turn = ++this.turn;
    const request = this.options.request();
    if (request === null || this.options.readonly) {
      this.faults = [];
      this.notes = [];
      this.judged = request !== null;
      return;
    }
    const reply = await send<{
      faults: Fault[];
      notes: Note[];
      drafts?: { number: string; who: string }[];
    }>('POST', `/api/v1/checks/${this.options.kind}`, request);
    if (turn !== this.turn) return;
    if (reply.ok) {
      this.faults = reply.body.faults;
      this.notes = reply.body.notes;
      this.drafts = reply.body.drafts ?? [];
      this.judged = true;
    } else this.refusal = reply.refusal;
  }

  private async keep(): Promise<void> {
    this.keeping = true;
    const reply = await send<{ keptAt: string }>(
      'PUT',
      `/api/v1/drafts/${encodeURIComponent(this.options.sheet)}`,
      {
        body: { ...this.options.body(), key: this.key },
        ...(this.options.numbers ? { numbers: this.options.numbers() } : {})
      }
    );
    this.keeping = false;
    if (reply.ok) this.keptAt = reply.body.keptAt;
    else setTimeout(() => void this.keep(), 5000); // a lost connection: the sheet stands, try again
  }

  /** Books what stands on the sheet. Faults and refusals stay on it; nothing typed is lost. */
  async book(): Promise<Booked | null> {
    const request = this.options.request();
    if (request === null || this.booking) return null;
    this.booking = true;
    this.refusal = null;
    clearTimeout(this.saving);
    const reply = await send<Booked>('POST', `/api/v1/${this.options.kind}`, request, {
      'idempotency-key': this.key
    });
    this.booking = false;
    if (!reply.ok) {
      this.refusal = reply.refusal;
      if (reply.refusal.status === 422) this.faults = reply.refusal.errors;
      return null;
    }
    this.booked = reply.body;
    this.key = newKey();
    this.faults = [];
    this.notes = [];
    clearTimeout(this.judging);
    await send('DELETE', `/api/v1/drafts/${encodeURIComponent(this.options.sheet)}`);
    this.keptAt = null;
    void invalidateAll(); // the list beside the sheet has one less to do
    return reply.body;
  }

  /** Puts the sheet's keys in place while it is shown; returns what takes them away. */
  keys(own: readonly ScreenKey[]): () => void {
    keys.screen = [...own, ...GRID_KEYS];
    return () => {
      keys.screen = [];
      clearTimeout(this.judging);
    };
  }
}
