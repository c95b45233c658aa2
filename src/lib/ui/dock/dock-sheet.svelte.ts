import type { Verdict } from '../../core/ledger/booking.ts';
import type { Receipt } from '../../core/ledger/request.ts';
import { dockStore, type KeptSheet, type WaitingBooking } from './store.ts';
import { waiting } from './waiting.svelte.ts';
import { keepPage } from './worker.ts';

interface Of<Body> {
  login: string;
  sheet: string;
  document: string;
  /** Its screen's path. */
  href: string;
  /** Where its booking is sent. */
  path: string;
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

  /**
   * Keeps the page for when the line is lost, and looks for what was typed here and did not get to
   * the server.
   * @param keptAt when the draft that is shown was kept
   */
  async open(keptAt: string | null): Promise<{ body: Body; key: string } | null> {
    const { login, sheet, document, href } = this.#of;
    void Promise.all([keepPage(href), keepKnown(document, href)]).then((kept) => {
      this.isReady = kept.every(Boolean);
    });
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
    const text = await dockStore.known(this.#of.document).catch(() => undefined);
    if (text === undefined) return null;
    // Asked for only without a line, and kept on the device with all other files of the application.
    const [{ judgeKnown }, { readKnownText }] = await Promise.all([
      import('../../core/receiving/judge-known.ts'),
      import('../../core/ledger/known-text.ts')
    ]);
    try {
      return judgeKnown(readKnownText(text), request as Receipt, new Date());
    } catch {
      // Kept by another version of the application: the server judges when the line is back.
      return null;
    }
  }

  /** Leaves a booking here until the line is back. */
  async leave(
    request: object,
    body: Body,
    key: string,
    since: string | null,
    when: WhenSettled
  ): Promise<void> {
    const { login, sheet, document, href, path } = this.#of;
    const at = new Date().toISOString();
    const booking = { login, sheet, body, key, since, path, document, href, request, at };
    this.waits = { ...booking, refused: null };
    this.#follow(key, when);
    await waiting.leave(this.waits);
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

/** What the server knows of the document, for judging without it. */
async function keepKnown(document: string, href: string): Promise<boolean> {
  try {
    const answer = await fetch(`${href}/known`);
    if (!answer.ok || answer.redirected) return false;
    await dockStore.keepKnown(document, await answer.text());
    return true;
  } catch {
    return false;
  }
}
