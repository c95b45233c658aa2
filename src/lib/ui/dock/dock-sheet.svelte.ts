import type { Verdict } from '../../core/ledger/booking.ts';
import type { Snapshot } from '../../core/ledger/snapshot.ts';
import type { DockKind } from './known.ts';
import { dockStore, type KeptSheet, type WaitingBooking } from './store.ts';
import { waiting } from './waiting.svelte.ts';

interface Of<Body> {
  login: string;
  sheet: string;
  document: string;
  /** Its screen's path. */
  href: string;
  /** What it books. */
  kind: DockKind;
  /** Where what the server knows is asked: `/receive/PO-1/known`. */
  known: string;
  /** A sheet of no order: what is left here waits by itself, and the next is begun. */
  isApart?: boolean;
  /** Puts on the sheet what was typed before. */
  restore: (body: Body) => void;
}

/** What a sheet does when what it left here is booked or refused. */
interface WhenSettled {
  booked: (booked: object) => void;
  refused: () => void;
}
/** A sheet that was opened while it waited shows what the server has. */
const SHOW_ANEW: WhenSettled = {
  booked: () => location.reload(),
  refused: () => location.reload()
};

/** Read once a sheet is open: it need not carry it. */
const knowing = () => import('./known.ts');

/** What a device keeps of a sheet, so that the dock goes on without a line. */
export class DockSheet<Body extends object> {
  /** The booking that waits for the line; the sheet stands still meanwhile. */
  waits = $state.raw<WaitingBooking | null>(null);
  /** What was typed here while the draft on the server became another one. */
  other = $state.raw<{ body: Body; key: string } | null>(null);
  /** What stands on the sheet is kept on this device and not on the server. */
  onlyHere = $state(false);
  /** All that the sheet needs is on this device: it can be loaded again without a line. */
  isReady = $state(false);
  #isKept = false;
  readonly #of: Of<Body>;

  constructor(of: Of<Body>) {
    this.#of = of;
  }

  get restore(): (body: Body) => void {
    return this.#of.restore;
  }

  get isApart(): boolean {
    return this.#of.isApart ?? false;
  }

  /** What was left here by itself and did not hold when the line was back. */
  get refused(): readonly WaitingBooking[] {
    return waiting.apartOf(this.#of.sheet).filter((one) => one.refused);
  }

  /**
   * Keeps the page for when the line is lost, and looks for what was typed here and did not get to
   * the server.
   * @param keptAt when the draft that is shown was kept
   */
  async open(keptAt: string | null): Promise<{ body: Body; key: string } | null> {
    const { login, sheet } = this.#of;
    void this.#keepAll();
    const left = await waiting.ofSheet(sheet);
    if (left && !left.refused) {
      this.waits = left;
      this.#follow(left.key);
      return null;
    }
    // What was refused stands on the sheet with its faults, and is told in the list no longer.
    if (left) await waiting.takeBack(left.key);
    const kept = await dockStore.sheetOf(login, sheet).catch(() => undefined);
    if (!kept) return null;
    const { body, key } = kept as KeptSheet & { body: Body };
    if (kept.since === keptAt) return { body, key };
    this.other = { body, key };
    return null;
  }

  async #keepAll(): Promise<void> {
    const { href, known } = this.#of;
    // What was left here by itself is booked first: what is known then knows of it.
    if (this.isApart) await waiting.sendAll();
    this.isReady = await (await knowing()).keepForDock([href], known);
  }

  /** Keeps what stands on the sheet, before the server is asked to. */
  async keep(body: Body, key: string, since: string | null): Promise<void> {
    const { login, sheet } = this.#of;
    this.#isKept = await dockStore.keep({ login, sheet, body, key, since }).then(
      () => true,
      () => false
    );
  }

  /** The server was not there to keep it. */
  missedServer(): void {
    this.onlyHere = this.#isKept;
  }

  /** The server has all of it. */
  async onServer(): Promise<void> {
    const { login, sheet } = this.#of;
    this.onlyHere = false;
    await dockStore.dropSheet(login, sheet).catch(() => undefined);
  }

  /** Faults and notes by what is known here; null where nothing is. */
  async judge(request: object): Promise<Verdict | null> {
    const known = await this.known();
    return known && (await knowing()).judgeHere(this.#of.kind, known, request);
  }

  /** What is known here; null where nothing is. */
  async known(): Promise<Snapshot | null> {
    return (await knowing()).readKnown(this.#of.known);
  }

  /** What was booked of moves is known here too, without asking again. */
  async moved(request: object): Promise<void> {
    await (await knowing()).keepMoved(this.#of.known, request);
  }

  /** Leaves a booking here until the line is back. */
  async leave(
    request: object,
    body: Body,
    key: string,
    since: string | null,
    when: WhenSettled
  ): Promise<void> {
    const { login, sheet, document, href, kind } = this.#of;
    const at = new Date().toISOString();
    const path = `/api/v1/${kind}`;
    const booking = { login, sheet, body, key, since, path, document, href, request, at };
    if (this.isApart) await waiting.leave({ ...booking, refused: null, isApart: true });
    else {
      this.waits = { ...booking, refused: null };
      this.#follow(key, when);
      await waiting.leave(this.waits);
    }
    await waiting.sendAll();
  }

  /** The sheet is worked on again, and nothing of it waits. */
  async changeAgain(): Promise<void> {
    if (!this.waits) return;
    waiting.tellNoMore(this.waits.key);
    await waiting.takeBack(this.waits.key);
    this.waits = null;
  }

  #follow(key: string, when: WhenSettled = SHOW_ANEW): void {
    waiting.tell(key, (became) => {
      // Whoever settled it dropped what was kept of the sheet.
      this.onlyHere = false;
      this.waits = null;
      if (became.what === 'booked') when.booked(became.booked);
      else if (became.what === 'refused') when.refused();
    });
  }

  close(): void {
    if (this.waits) waiting.tellNoMore(this.waits.key);
  }
}
