import { lineOfPath } from '../../core/faults/line-of-path.ts';
import { messagesOf, send } from '../frame/api.ts';
import { inTurn } from '../../core/in-turn.ts';

/** A number at a place, as it is counted. */
export interface Countable {
  product: string;
  place: string;
  lot: string | null;
  serial: string | null;
  /** Of what was never known: what its label says. */
  expires?: string;
  facts?: Record<string, string>;
}

/** What was entered for a number and is not kept yet, or could not be. */
export interface Entered {
  line: Countable;
  /** Null where an entry is taken back. */
  quantity: string | null;
  fault: string | null;
}

export const countKey = ({ product, place, lot, serial }: Countable): string =>
  [place, product, serial === null ? 'lot' : 'serial', serial ?? lot ?? '']
    .map((part) => part.toUpperCase())
    .join('\n');

const TRY_AGAIN_MS = 4000;

/**
 * Entries of a count on their way to the server. What is typed counts at once on the screen and is
 * sent behind it; what could not be sent is kept and tried again, and said.
 */
export class Counting {
  /** What is typed and not on the server, by number and place. */
  entered = $state.raw<ReadonlyMap<string, Entered>>(new Map());
  /** What is worth saying of single numbers, by `product number`. */
  notes = $state.raw<ReadonlyMap<string, string>>(new Map());
  refused = $state.raw<readonly string[]>([]);
  unreachable = $state(false);
  private readonly nextTurn = inTurn();
  private again: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly document: string,
    /** Told when something was kept: the sheet reads anew. */
    private readonly onkept: () => void | Promise<void>
  ) {}

  /** How many entries are not on the server yet. */
  get waiting(): number {
    return [...this.entered.values()].filter((one) => one.fault === null).length;
  }

  /** What stands as counted: typed and on its way, or kept. */
  countedOf(line: Countable & { counted: string | null }): string | null {
    const typed = this.entered.get(countKey(line));
    return typed ? typed.quantity : line.counted;
  }

  enter(line: Countable, quantity: string | null): Promise<void> {
    const next = new Map(this.entered);
    next.set(countKey(line), { line, quantity, fault: null });
    this.entered = next;
    return this.send();
  }

  /** Leaves an entry that could not be kept. */
  drop(line: Countable): void {
    const next = new Map(this.entered);
    next.delete(countKey(line));
    this.entered = next;
  }

  /** Says that all of a place is counted. @returns whether it is kept */
  async done(place: string): Promise<boolean> {
    await this.send();
    if (this.waiting > 0) return false;
    return this.put([], [place]);
  }

  private send(): Promise<void> {
    clearTimeout(this.again);
    return this.nextTurn(() => this.sendWaiting());
  }

  private async sendWaiting(): Promise<void> {
    const waiting = [...this.entered].filter(([, one]) => one.fault === null);
    if (waiting.length === 0) return;
    if (
      await this.put(
        waiting.map(([, one]) => one),
        []
      )
    )
      this.keep(waiting);
  }

  private keep(sent: readonly (readonly [string, Entered])[]): void {
    const next = new Map(this.entered);
    // What was typed anew meanwhile waits for its own turn.
    for (const [key, one] of sent) if (next.get(key) === one) next.delete(key);
    this.entered = next;
  }

  private async put(entries: readonly Entered[], done: string[]): Promise<boolean> {
    const reply = await send<{ notes: { path: string; number?: string; message: string }[] }>(
      'PUT',
      `/api/v1/counts/${encodeURIComponent(this.document)}/entries`,
      {
        lines: entries.map(
          ({ line: { product, place, lot, serial, expires, facts }, quantity }) => ({
            product,
            place,
            ...(lot === null ? {} : { lot }),
            ...(serial === null ? {} : { serial }),
            ...(expires ? { expires } : {}),
            ...(facts ? { facts } : {}),
            quantity
          })
        ),
        done
      }
    );
    if (reply.ok) {
      this.unreachable = false;
      this.refused = [];
      const notes = new Map(this.notes);
      for (const { path, message } of reply.body.notes) {
        const entry = entries[lineOfPath(path) ?? -1];
        if (entry) notes.set(countKey(entry.line), message);
      }
      this.notes = notes;
      await this.onkept();
      return true;
    }
    this.unreachable = reply.refusal.status === 0;
    if (this.unreachable) this.again = setTimeout(() => void this.send(), TRY_AGAIN_MS);
    else this.tell(entries, reply.refusal.errors, messagesOf(reply.refusal));
    return false;
  }

  /** A refused entry stays with what is wrong beside it; the others go on without it. */
  private tell(
    entries: readonly Entered[],
    errors: readonly { path: string; message: string }[],
    messages: readonly string[]
  ): void {
    const next = new Map(this.entered);
    let told = false;
    for (const { path, message } of errors) {
      const entry = entries[lineOfPath(path) ?? -1];
      if (!entry) continue;
      told = true;
      next.set(countKey(entry.line), { ...entry, fault: message });
    }
    this.entered = next;
    this.refused = told ? [] : messages;
    if (told && this.waiting > 0) void this.send();
  }

  stop(): void {
    clearTimeout(this.again);
  }
}
