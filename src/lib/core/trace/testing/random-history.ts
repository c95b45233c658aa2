import fc from 'fast-check';
import { eventKindCode } from '../packed/packed-ledger.ts';
import { anyAct, History, ONE, type Act, type SmallLedger } from './history.ts';

export type { SmallLedger } from './history.ts';
import { insideOf, flowsOf } from './model.ts';
import { isAbove, fraction } from './fraction.ts';

/**
 * A ledger that could have been booked: nothing takes what is not there by the order of booking.
 * Dates are another matter: some are wrong, some the same. Lots are topped up, serials lie within
 * lots, units are reworked, taken apart, built again; parts fitted and removed; bookings taken back.
 */
export const anyHistory: fc.Arbitrary<SmallLedger> = fc
  .array(anyAct, { minLength: 3, maxLength: 26 })
  .map((acts) => {
    const history = new Bookings();
    for (const act of acts) history.book(act);
    return { rows: history.rows, marks: history.rows.marks.length };
  });

class Bookings extends History {
  book(act: Act): void {
    this.act = act;
    this[act.kind]();
  }

  receive(): void {
    const { coin, amount } = this.act;
    const event = this.event('receive', 1 + (coin % 3));
    const known = this.some(this.lots(), 0);
    if (coin < 4 || known === null) this.move(event, this.mark(event, 'lot'), BigInt(amount));
    else if (coin < 7) this.move(event, known, BigInt(amount));
    else this.move(event, this.mark(event, 'serial', coin < 9 ? known : 0), ONE);
  }

  private uses(event: number, not?: number): { mark: number; quantity: bigint }[] {
    const found = new Map<number, bigint>();
    for (let n = 0; n <= this.act.coin % 3; n++) {
      const mark = this.some(
        this.onHand((one) => one !== not && !found.has(one)),
        n
      );
      if (mark !== null) found.set(mark, this.share(mark, n));
    }
    for (const [mark, quantity] of found) this.move(event, mark, -quantity);
    return [...found].map(([mark, quantity]) => ({ mark, quantity }));
  }

  /** Into a lot, new or known, or into several things. */
  build(): void {
    if (this.onHand().length === 0) return;
    const { coin, amount } = this.act;
    const event = this.event('build');
    const inputs = this.uses(event);
    const used = new Set(inputs.map((row) => row.mark));
    const known = this.some(
      this.lots().filter((lot) => coin === 5 || !used.has(lot)),
      2
    );
    const lot = coin % 4 === 1 && known !== null ? known : this.mark(event, 'lot');
    const outputs = [{ mark: lot, quantity: BigInt(amount) }];
    if (coin > 8)
      outputs.push({ mark: this.mark(event, 'lot'), quantity: BigInt(Math.floor(amount / 2) + 1) });
    if (coin === 7) outputs.push({ mark: this.mark(event, 'serial'), quantity: ONE });
    this.tie(event, inputs, outputs, coin % 2 === 0);
  }

  /** One unit of known parts; sometimes one that was taken apart and is built again. */
  unit(): void {
    if (this.onHand().length === 0) return;
    const apart = this.rows.marks.filter(
      (mark) =>
        mark.kind === 2 &&
        (this.stock.get(mark.id) ?? 0n) === 0n &&
        this.rows.transformations.some(
          (tie) =>
            this.rows.events[tie.event - 1]!.kind === eventKindCode('teardown') &&
            tie.inputs.some((row) => row.mark === mark.id)
        ) &&
        this.lastOf(mark.id) === 'teardown'
    );
    const event = this.event('build');
    const again = this.some(
      apart.map((mark) => mark.id),
      0
    );
    const lot = this.act.coin === 3 ? (this.some(this.lots(), 1) ?? 0) : 0;
    const inputs = this.uses(event);
    const unit = again ?? this.mark(event, 'serial', inputs.some((r) => r.mark === lot) ? 0 : lot);
    this.tie(event, inputs, [{ mark: unit, quantity: ONE }]);
  }

  /** Units of one lot in one booking, one by one: as much of it for each, or more for some. */
  series(): void {
    const lot = this.some(
      this.lots().filter((one) => (this.stock.get(one) ?? 0n) > 0n),
      1
    );
    if (lot === null) return;
    const event = this.event('build');
    const whole = this.stock.get(lot)!;
    const { coin, parts } = this.act;
    const taken = parts
      .map((part) => (whole * BigInt(coin % 2 === 0 ? parts[0]! : part)) / 300n)
      .filter((quantity) => quantity > 0n);
    for (const quantity of taken) {
      const unit = { mark: this.mark(event, 'serial'), quantity: ONE };
      this.tie(event, [{ mark: lot, quantity }], [unit]);
    }
    const all = taken.reduce((sum, quantity) => sum + quantity, 0n);
    if (all > 0n) this.move(event, lot, -all);
  }

  /** Two units, each of a part of its own, and of what went into both together. */
  batch(): void {
    const own = this.onHand().slice(0, 2);
    const both = this.some(
      this.onHand((mark) => !own.includes(mark)),
      2
    );
    if (own.length < 2 || both === null) return;
    const event = this.event('build');
    const inputs = own.map((mark, n) => ({ mark, quantity: this.share(mark, n) }));
    const shared = { mark: both, quantity: this.share(both, 2) };
    for (const { mark, quantity } of [...inputs, shared]) this.move(event, mark, -quantity);
    const units = own.map(() => ({ mark: this.mark(event, 'serial'), quantity: ONE }));
    units.forEach((unit, n) => this.tie(event, [inputs[n]!], [unit]));
    this.rows.transformations.push({
      id: this.rows.transformations.length + 1,
      event,
      shared: true,
      inputs: [shared],
      outputs: units.map((unit) => ({ ...unit, share: null }))
    });
  }

  private lastOf(mark: number): string {
    const moved = this.rows.movements.filter((row) => row.mark === mark).at(-1);
    const kind = moved && this.rows.events[moved.event - 1]!.kind;
    return kind === eventKindCode('teardown') ? 'teardown' : 'other';
  }

  rework(): void {
    const unit = this.some(
      this.onHand((mark) => this.isUnit(mark)),
      0
    );
    if (unit === null) return;
    const event = this.event('build');
    const others = this.uses(event, unit);
    this.move(event, unit, -ONE);
    this.tie(event, [{ mark: unit, quantity: ONE }, ...others], [{ mark: unit, quantity: ONE }]);
  }

  /** Some of what is in it comes out; what nobody recorded under a new number. */
  teardown(): void {
    const made = new Set(this.rows.transformations.flatMap((t) => t.outputs.map((o) => o.mark)));
    const host = this.some(
      this.onHand((mark) => made.has(mark)),
      0
    );
    if (host === null) return;
    const taken = this.share(host, 0);
    const { parts, made: all } = this.inside(host);
    const event = this.event('teardown');
    this.move(event, host, -taken);
    const outputs: { mark: number; quantity: bigint }[] = [];
    [...parts].forEach(([part, { n, d }], index) => {
      if ((this.act.coin + index) % 3 === 0 || all.n === 0n) return;
      const there = (n * taken * all.d) / (d * all.n);
      const some = index % 2 === 0 ? there : (there * 2n) / 3n;
      const quantity = this.isUnit(part) ? ONE : some;
      if (quantity <= 0n || (this.isUnit(part) && (this.stock.get(part) ?? 0n) > 0n)) return;
      outputs.push({ mark: part, quantity });
    });
    if (outputs.length === 0 || this.act.coin > 7)
      outputs.push({ mark: this.mark(event, 'lot'), quantity: BigInt(this.act.amount) });
    this.tie(event, [{ mark: host, quantity: taken }], outputs);
  }

  private inside(host: number) {
    return insideOf(flowsOf(this.rows), host, this.isUnit(host), this.rows.events.length + 1);
  }

  fit(): void {
    const host = this.some(
      this.onHand((mark) => this.isUnit(mark)),
      0
    );
    const part =
      host &&
      this.some(
        this.onHand((mark) => mark !== host),
        1
      );
    if (!host || !part) return;
    const event = this.event('fit'),
      quantity = this.share(part, 1);
    this.move(event, part, -quantity);
    this.rows.fittings.push({ component: part, host, quantity, event });
  }

  remove(): void {
    const host = this.some(
      this.onHand((mark) => this.isUnit(mark) && this.inside(mark).parts.size > 0),
      0
    );
    if (host === null) return;
    const parts = [...this.inside(host).parts].filter(
      ([part, q]) =>
        !isAbove(fraction(1n), q) && !(this.isUnit(part) && (this.stock.get(part) ?? 0n) > 0n)
    );
    const found = parts[this.act.picks[1]! % Math.max(1, parts.length)];
    if (!found) return;
    const [component, { n, d }] = found;
    const there = n / d;
    const some = this.act.coin % 2 === 0 ? there : there / 2n;
    const quantity = this.isUnit(component) ? ONE : some;
    if (quantity <= 0n || quantity > there) return;
    const event = this.event('remove');
    this.rows.removals.push({ component, host, quantity, event });
    this.move(event, component, quantity);
  }

  identify(): void {
    const lot = this.some(
      this.onHand((mark) => !this.isUnit(mark) && this.stock.get(mark)! >= ONE),
      0
    );
    if (lot === null) return;
    const event = this.event('identify');
    this.move(event, lot, -ONE);
    const serial = this.mark(event, 'serial', lot);
    this.tie(event, [{ mark: lot, quantity: ONE }], [{ mark: serial, quantity: ONE }]);
  }

  ship(): void {
    this.leave('ship', 1 + (this.act.coin % 3));
  }
  scrap(): void {
    this.leave('scrap');
  }
  loss(): void {
    this.leave('loss');
  }
  private leave(kind: string, partner = 0): void {
    const mark = this.some(this.onHand(), 0);
    if (mark === null) return;
    const event = this.event(kind, partner),
      quantity = this.share(mark, 0);
    this.move(event, mark, -quantity);
    if (kind === 'ship') this.outside.push({ mark, partner, quantity });
  }

  return(): void {
    const open = this.outside.filter((row) => row.quantity > 0n);
    const row = open[this.act.picks[0]! % Math.max(1, open.length)];
    if (!row) return;
    const part = (row.quantity * BigInt(this.act.parts[0]!)) / 100n;
    const quantity = this.isUnit(row.mark) || part === 0n ? row.quantity : part;
    row.quantity -= quantity;
    this.move(this.event('return', row.partner), row.mark, quantity);
  }

  gain(): void {
    const lot = this.some(this.lots(), 0);
    if (lot !== null) this.move(this.event('gain'), lot, BigInt(this.act.amount));
  }

  shift(): void {
    const mark = this.some(this.onHand(), 0);
    if (mark === null) return;
    const event = this.event('move'),
      quantity = this.share(mark, 0);
    this.move(event, mark, -quantity);
    this.move(event, mark, quantity, 3);
  }

  hold(): void {
    const mark = this.some(this.onHand(), 0);
    if (mark !== null)
      this.rows.movements.push({ event: this.event('hold'), mark, place: 0, quantity: 0n });
  }

  /** Takes a booking back while what it brought in is there and nothing was taken apart since. */
  reverse(): void {
    const may = ['receive', 'build', 'ship', 'scrap', 'loss', 'gain'].map(eventKindCode);
    const undone = new Set(this.rows.events.map((event) => event.undone));
    const open = this.rows.events.filter(
      (event) => may.includes(event.kind) && !undone.has(event.id) && this.canTakeBack(event.id)
    );
    const found = open[this.act.picks[0]! % Math.max(1, open.length)];
    if (!found) return;
    const event = this.event('reversal', 0, found.id);
    for (const tie of this.rows.transformations)
      if (tie.event === found.id) this.rows.takenBack.push({ transformation: tie.id, event });
    for (const row of this.rows.movements.filter((one) => one.event === found.id))
      this.move(event, row.mark, -row.quantity);
    for (const row of this.rows.movements.filter((one) => one.event === found.id))
      for (const out of this.outside)
        if (
          out.mark === row.mark &&
          out.partner === found.partner &&
          out.quantity === -row.quantity
        )
          out.quantity = 0n;
  }

  private canTakeBack(event: number): boolean {
    const rows = this.rows.movements.filter((row) => row.event === event);
    const isShip = this.rows.events[event - 1]!.kind === eventKindCode('ship');
    const touched = new Set(rows.map((row) => row.mark));
    const later = this.rows.movements.some(
      (row) => row.event > event && touched.has(row.mark) && this.isUnit(row.mark)
    );
    const apart = this.rows.transformations.some(
      (tie) =>
        tie.event > event &&
        tie.inputs.some((row) => touched.has(row.mark) && this.isTorn(row.mark))
    );
    if (later || apart) return false;
    if (isShip)
      return rows.every((row) =>
        this.outside.some((out) => out.mark === row.mark && out.quantity === -row.quantity)
      );
    return rows.every((row) => (this.stock.get(row.mark) ?? 0n) >= row.quantity);
  }
}
