import { inTurn } from '../../core/in-turn.ts';
import type { MoveUnit } from '../../core/ledger/request.ts';
import { count } from '../parts/say.ts';
import type { FindLying, FoundLying } from './find-lying.ts';
import {
  addParts,
  goes,
  missingOf,
  partKey,
  sayCut,
  sayMissing,
  sendTo,
  type KeptParts,
  type Part
} from './moving.ts';
import { linesOfScan, readScans } from './scans.ts';

interface Of {
  kind: 'put away' | 'move';
  /** What stands on the list when it is opened. */
  begin: readonly Part[];
  kept: KeptParts | null;
  /** Codes of all places there are. */
  places: () => readonly string[];
  today: () => string;
  find: FindLying;
  /** The list is another one. */
  changed: () => void;
}

/** What goes from where to where, as it is scanned: numbers and cartons first, then the place. */
export class MovingList {
  parts = $state.raw<Part[]>([]);
  units = $state.raw<MoveUnit[]>([]);
  /** Numbers this device does not know: they are looked for when the line is back. */
  later = $state.raw<readonly string[]>([]);
  said = $state('');
  wrong = $state('');
  /** The place whose content may be taken whole. */
  offered = $state<string | null>(null);
  /** Marks that were scanned at putting away and wait for their place. */
  picked = $state.raw<ReadonlySet<number>>(new Set());
  readonly #of: Of;
  readonly #turn = inTurn();

  constructor(of: Of) {
    this.#of = of;
    this.parts = [...of.begin];
    this.units = of.kept?.units ?? [];
    this.later = of.kept?.later ?? [];
  }

  /** Does something after all that was scanned, however fast: a key does not overtake a scan. */
  inTurn<T>(act: () => Promise<T>): Promise<T> {
    return this.#turn(act);
  }

  /** What does not go: it is not ticked, or has nowhere to go. */
  get staying(): Part[] {
    return this.parts.filter((part) => !goes(part));
  }

  /** Another list. */
  put(next: readonly Part[]): void {
    this.parts = [...next];
    this.#of.changed();
  }

  set(at: number, change: Partial<Part>): void {
    this.put(this.parts.with(at, { ...this.parts[at]!, ...change }));
  }

  putUnits(next: readonly MoveUnit[]): void {
    this.units = [...next];
    this.#of.changed();
  }

  /** Shows what was kept of the list before. */
  restore({ parts, units, later }: KeptParts): void {
    this.parts = parts;
    this.units = units;
    this.later = later ?? [];
  }

  /** Adds to the list what was refused, with where it was to go. */
  takeUpAgain({ parts, units }: KeptParts): void {
    const there = new Set(this.units.map(({ sscc }) => sscc));
    this.units = [...this.units, ...units.filter(({ sscc }) => !there.has(sscc))];
    const again = new Set(parts.map((part) => partKey(part.row)));
    this.put([...parts, ...this.parts.filter((part) => !again.has(partKey(part.row)))]);
  }

  /** What went is on the list no longer. @param rest what waits then */
  begin(rest: readonly Part[]): void {
    [this.said, this.wrong] = ['', ''];
    this.units = [];
    this.parts = [...rest];
  }

  /** One scan, or a pasted column of them; a place sends what was scanned before it. */
  take(scanned: string): Promise<void> {
    return this.#turn(() => this.#take(scanned));
  }

  /** All that lies at a place. */
  takeAllAt(place: string): Promise<void> {
    return this.#turn(async () => {
      this.wrong = await this.#add({ place }, []);
    });
  }

  /** Looks again for what this device did not know. */
  lookLater(): Promise<void> {
    return this.#turn(async () => {
      const numbers = this.later;
      if (numbers.length === 0) return;
      const found = await this.#of.find({ numbers });
      if ('wrong' in found || found.isOfDevice) return;
      this.later = this.later.filter((one) => !numbers.includes(one));
      this.wrong = this.#takeFound(numbers, found);
      this.#of.changed();
    });
  }

  /** Whoever gives up on a number that is not known here. */
  dropLater(number: string): void {
    this.later = this.later.filter((one) => one !== number);
    this.#of.changed();
  }

  async #take(scanned: string): Promise<void> {
    [this.said, this.wrong, this.offered] = ['', '', null];
    const places = new Map(this.#of.places().map((code) => [code.toUpperCase(), code]));
    let waiting: string[] = [];
    for (const line of linesOfScan(scanned, this.#of.today())) {
      const place = places.get(line.toUpperCase());
      if (place === undefined) {
        waiting.push(line);
        continue;
      }
      if (waiting.length > 0) await this.#addNumbers(waiting);
      waiting = [];
      this.#sendTo(place);
    }
    if (waiting.length > 0) await this.#addNumbers(waiting);
  }

  #sendTo(code: string): void {
    const loose = this.parts.filter((part) => part.going && part.to === '').length;
    if (this.picked.size > 0) {
      const chosen = this.picked;
      this.picked = new Set();
      this.put(
        this.parts.map((part) =>
          chosen.has(part.row.mark) ? { ...part, to: code, going: true } : part
        )
      );
    } else if (loose > 0 || this.units.some((unit) => unit.to === '')) {
      this.units = this.units.map((unit) => (unit.to === '' ? { ...unit, to: code } : unit));
      this.put(sendTo(this.parts, code));
    } else {
      this.offered = code;
      return;
    }
    this.said = `They go to ${code}.`;
  }

  async #addNumbers(asked: readonly string[]): Promise<void> {
    const { cartons, numbers, wrong } = readScans(asked);
    const there = new Set(this.units.map(({ sscc }) => sscc));
    const fresh = cartons.filter((sscc) => !there.has(sscc));
    this.units = [...this.units, ...fresh.map((sscc) => ({ sscc, to: '' }))];
    const missing = numbers.length > 0 ? await this.#add({ numbers }, numbers) : '';
    if (numbers.length === 0) this.#of.changed();
    this.wrong = [this.wrong, missing, ...wrong].filter(Boolean).join(' ');
  }

  /** Puts what lies there on the list. @returns what is wrong, or missing of it */
  async #add(
    asked: { numbers: readonly string[] } | { place: string },
    names: readonly string[]
  ): Promise<string> {
    this.offered = null;
    const found = await this.#of.find(asked);
    return 'wrong' in found ? found.wrong : this.#takeFound(names, found);
  }

  #takeFound(names: readonly string[], { rows, total, isOfDevice }: FoundLying): string {
    const missing = missingOf(names, rows);
    if (isOfDevice && missing.length > 0) {
      this.later = [...new Set([...this.later, ...missing])];
      this.#of.changed();
    }
    if (rows.length > 0) this.#addRows(rows);
    if (rows.length < total) return sayCut(rows.length, total);
    return isOfDevice ? '' : sayMissing(missing);
  }

  #addRows(rows: Parameters<typeof addParts>[1]): void {
    const before = this.parts;
    const { parts: next, added } = addParts(before, rows, '');
    const isPutAway = this.#of.kind === 'put away';
    const marks = new Set(rows.map((row) => row.mark));
    if (isPutAway && this.picked.size === 0)
      this.put(next.map((part) => ({ ...part, going: marks.has(part.row.mark) })));
    else this.put(next);
    if (isPutAway) this.picked = new Set([...this.picked, ...marks]);
    if (added > 0 || before.length === next.length)
      this.said = `${count(rows.length, 'row')} taken. Scan the place they go to.`;
  }
}
