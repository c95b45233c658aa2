import { refresh } from '../frame/refresh.ts';
import { send, unreachable, type Refusal, type Reply } from '../frame/api.ts';
import { keys, type ScreenKey } from '../frame/keys.svelte.ts';
import { inTurn } from '../../core/in-turn.ts';
import { latest } from '../frame/latest.ts';
import { newKey } from '../frame/new-key.ts';
import type { DockSheet } from '../dock/dock-sheet.svelte.ts';
import { OtherTabs } from './other-tabs.svelte.ts';

export interface Fault {
  code: string;
  path: string;
  number?: string;
  message: string;
  answer?: 'reason' | 'second person';
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
  /** Missing from answers that were kept before it was told. */
  unit?: string;
  state: 'usable' | 'held' | 'rejected';
}
export interface Booked {
  event: { id: number; kind: string; document: string; bookedAt: string };
  marks: BookedMark[];
}

/** A pause in typing after which the draft is kept, and how long to wait where it could not be. */
const KEEP_AFTER_MS = 700;
const TRY_AGAIN_MS = 5000;

type Kept = 'kept' | 'refused' | 'unreachable';

interface Options<Body extends object> {
  /** Kind of booking as the API names it: `receipts`. */
  kind: 'receipts' | 'builds' | 'shipments' | 'identifications' | 'openings' | 'moves';
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
  /** Of a sheet of the dock, which goes on without a line. */
  dock?: DockSheet<Body> | undefined;
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
  /** What stands on the sheet is not all kept yet. */
  keeping = $state(false);
  booking = $state(false);
  refusal = $state.raw<Refusal | null>(null);
  booked = $state.raw<Booked | null>(null);
  /** Other tabs of this person with the same sheet; none while the server draws it. */
  readonly tabs: OtherTabs | null;
  private key: string;
  private judging: ReturnType<typeof setTimeout> | undefined;
  private saving: ReturnType<typeof setTimeout> | undefined;
  private readonly asking = latest();
  /** Counts the changes of the sheet, and how many of them the kept draft has. */
  private changes = 0;
  private keptChanges = 0;
  private keptKey = false;
  /** One draft at a time is on its way; the next waits for it. */
  private readonly nextDraft = inTurn();

  constructor(private readonly options: Options<Body>) {
    this.key = options.kept.key ?? newKey();
    this.keptAt = options.kept.keptAt;
    this.tabs = typeof document === 'undefined' ? null : new OtherTabs(options.sheet);
    this.keptKey = options.kept.key !== undefined;
  }

  /** The booking as it would be sent; null where there is nothing to book yet. */
  request(): object | null {
    return this.options.request();
  }

  /** After every change of the sheet: judge and keep it, a moment later. */
  changed(): void {
    this.refusal = null;
    this.judgeSoon();
    if (this.options.readonly) return;
    this.changes++;
    this.keeping = true;
    this.keepSoon(KEEP_AFTER_MS);
  }

  private keepSoon(after: number): void {
    clearTimeout(this.saving);
    if (!this.booking && !this.options.dock?.waits)
      this.saving = setTimeout(() => void this.keep(), after);
  }

  judgeSoon(): void {
    this.judged = false;
    clearTimeout(this.judging);
    this.judging = setTimeout(() => void this.judge(), 220);
  }

  async judge(): Promise<void> {
    const isLatest = this.asking();
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
    if (!isLatest()) return;
    if (reply.ok) {
      this.faults = reply.body.faults;
      this.notes = reply.body.notes;
      this.drafts = reply.body.drafts ?? [];
      this.judged = true;
    } else if (reply.refusal.status === 0 && this.options.dock)
      await this.judgeHere(request, isLatest);
    else this.refusal = reply.refusal;
  }

  /** Without a line: by what was known when the sheet was last opened with one. */
  private async judgeHere(request: object, isLatest: () => boolean): Promise<void> {
    const verdict = await this.options.dock!.judge(request);
    if (!verdict || !isLatest()) return;
    this.faults = verdict.faults;
    this.notes = verdict.notes;
    this.judged = true;
  }

  /** Keeps the draft as it stands when those before it are through. */
  private keep(): Promise<Kept> {
    clearTimeout(this.saving);
    return this.nextDraft(() => this.putDraft());
  }

  private async putDraft(): Promise<Kept> {
    if (this.keptKey && this.keptChanges === this.changes) return 'kept';
    const { changes } = this;
    await this.options.dock?.keep({ ...this.options.body() }, this.key, this.keptAt);
    const reply = await send<{ keptAt: string }>('PUT', this.draftPath, {
      body: { ...this.options.body(), key: this.key },
      ...(this.options.numbers ? { numbers: this.options.numbers() } : {})
    });
    if (!reply.ok) {
      this.keepSoon(TRY_AGAIN_MS); // a lost connection: the sheet stands
      if (reply.refusal.status !== 0) return 'refused';
      this.options.dock?.missedServer();
      return 'unreachable';
    }
    this.tabs?.kept();
    await this.options.dock?.onServer();
    this.keptAt = reply.body.keptAt;
    this.keptKey = true;
    this.keptChanges = changes;
    this.keeping = this.changes !== changes;
    return 'kept';
  }

  private get draftPath(): string {
    return `/api/v1/drafts/${encodeURIComponent(this.options.sheet)}`;
  }

  /** Opens what this device kept of the sheet and the server has not. */
  async openKeptHere(): Promise<void> {
    const kept = await this.options.dock?.open(this.keptAt);
    if (kept) this.takeKept(kept.body, kept.key);
  }

  /** What was typed on this device before stands on the sheet again. */
  takeKept(body: Body, key: string): void {
    this.key = key;
    this.keptKey = false;
    this.options.dock!.restore(body);
    this.changed();
  }

  /** Leaves the booking on this device; it is sent when the line is back. */
  async leaveHere(): Promise<void> {
    // A draft that is on its way comes before, and none after.
    await this.nextDraft(async () => 'kept');
    clearTimeout(this.saving);
    const request = this.options.request();
    if (request === null) return;
    this.refusal = null;
    await this.options.dock!.leave(request, this.options.body(), this.key, this.keptAt, {
      booked: (booked) => this.becomeBooked(booked as Booked),
      refused: () => this.judgeSoon()
    });
    if (this.options.dock!.isApart) this.beginNext();
  }

  /** What is booked is no draft any more; whatever is typed next is a new sheet. */
  private becomeBooked(booked: Booked): void {
    this.booked = booked;
    this.tabs?.booked();
    this.beginNext();
    this.keptAt = null;
  }

  /** What was typed so far is on its way under its own key. */
  private beginNext(): void {
    this.faults = [];
    this.notes = [];
    clearTimeout(this.judging);
    clearTimeout(this.saving);
    this.key = newKey();
    this.keptKey = false;
    this.keptChanges = this.changes;
    this.keeping = false;
  }

  /** Books what stands on the sheet. Faults and refusals stay on it; nothing typed is lost. */
  async book(): Promise<Booked | null> {
    const request = this.options.request();
    if (request === null || this.booking) return null;
    this.booking = true;
    this.refusal = null;
    clearTimeout(this.saving);
    const reply = await this.sendBooking(request);
    this.booking = false;
    if (!reply.ok) {
      this.refusal = reply.refusal;
      if (reply.refusal.status === 422) this.faults = reply.refusal.errors;
      if (this.keeping) this.keepSoon(KEEP_AFTER_MS);
      return null;
    }
    this.becomeBooked(reply.body);
    await this.options.dock?.onServer();
    await send('DELETE', this.draftPath);
    void refresh(); // the list beside the sheet has one less to do
    return reply.body;
  }

  /**
   * The draft is kept first, and with it the key: should the answer be lost, the sheet is sent
   * under the same key after a reload, and books once. Where Earmark cannot be reached nothing is
   * sent; a draft it refuses does not stop a booking.
   */
  private async sendBooking(request: object): Promise<Reply<Booked>> {
    if ((await this.keep()) === 'unreachable') return unreachable;
    return send<Booked>('POST', `/api/v1/${this.options.kind}`, request, {
      'idempotency-key': this.key
    });
  }

  /** Puts the sheet's keys in place while it is shown; returns what takes them away. */
  keys(own: readonly ScreenKey[]): () => void {
    keys.screen = [...own, ...GRID_KEYS];
    return () => {
      keys.screen = [];
      this.tabs?.close();
      clearTimeout(this.judging);
    };
  }
}
