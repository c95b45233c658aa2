import { formatQuantity, ONE, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef } from './booking.ts';
import { codeKey, isFree, type KnownPlace, type Snapshot } from './snapshot.ts';

const NOWHERE: ReadonlyMap<string, Quantity> = new Map();

const anywhere = (): boolean => true;

/**
 * What is still there while a booking is decided: stock less what earlier rows took, plus what
 * earlier groups made.
 */
export class Availability {
  /**
   * Of marks that rows took from or added to; never changed in place, as ten thousand serials share
   * what they left behind.
   */
  private readonly left = new Map<MarkRef, ReadonlyMap<string, Quantity>>();

  constructor(private readonly snapshot: Snapshot) {}

  private at(mark: MarkRef): ReadonlyMap<string, Quantity> {
    return this.left.get(mark) ?? this.snapshot.stock.get(mark) ?? NOWHERE;
  }

  add(mark: MarkRef, place: KnownPlace, amount: Quantity): void {
    const places = this.at(mark),
      code = codeKey(place.code),
      here = places.get(code);
    this.left.set(mark, new Map(places).set(code, here ? here.plus(amount) : amount));
  }

  /** How much lies at one place, or everywhere. */
  amount(mark: MarkRef, place?: KnownPlace): Quantity {
    return place ? (this.at(mark).get(codeKey(place.code)) ?? ZERO) : total(this.at(mark).values());
  }

  /** How much lies where it is free to be used, promised or sent: not in quarantine. */
  free(mark: MarkRef): Quantity {
    return total([...this.at(mark)].flatMap(([code, here]) => (this.isFreeAt(code) ? [here] : [])));
  }

  private isFreeAt(code: string): boolean {
    const place = this.snapshot.places.get(code);
    return place === undefined || isFree(place);
  }

  /** Where it lies, as `DOCK 12 and B2 4`; for messages. */
  describe(mark: MarkRef): string {
    return [...this.at(mark)]
      .filter(([, amount]) => amount.gt(0))
      .map(
        ([code, amount]) =>
          `${this.snapshot.places.get(code)?.code ?? code} ${formatQuantity(amount)}`
      )
      .join(' and ');
  }

  /**
   * Takes an amount away: from `only` where a place is named, otherwise from `first` and then from
   * the other places in the order of their codes.
   * @param mayTake the places it may be taken from at all, as `isFree` passes over quarantine
   * @returns the takings by place, or null where there is not enough; then nothing was taken
   */
  take(
    mark: MarkRef,
    amount: Quantity,
    only: KnownPlace | null,
    first: KnownPlace | null,
    mayTake: (place: KnownPlace) => boolean = anywhere
  ): { place: KnownPlace; quantity: Quantity }[] | null {
    return (
      (amount === ONE ? this.takeSerial(mark, only, mayTake) : null) ??
      this.takeAny(mark, amount, only, first, mayTake)
    );
  }

  /**
   * By far the most rows of a long sheet: one unit, which lies at one place and leaves nothing
   * there. Null where it is not so simple.
   */
  private takeSerial(
    mark: MarkRef,
    only: KnownPlace | null,
    mayTake: (place: KnownPlace) => boolean
  ): { place: KnownPlace; quantity: Quantity }[] | null {
    const places = this.at(mark);
    if (places.size !== 1) return null;
    for (const [code, here] of places) {
      const place = here === ONE ? this.snapshot.places.get(code) : undefined;
      if (!place || (only && place.id !== only.id) || !mayTake(place)) return null;
      this.left.set(mark, NOWHERE);
      return [{ place, quantity: here }];
    }
    return null;
  }

  private takeAny(
    mark: MarkRef,
    amount: Quantity,
    only: KnownPlace | null,
    first: KnownPlace | null,
    mayTake: (place: KnownPlace) => boolean
  ): { place: KnownPlace; quantity: Quantity }[] | null {
    const places = this.at(mark),
      rank = (code: string) => (first && code === codeKey(first.code) ? 0 : 1);
    const codes = only
      ? [codeKey(only.code)]
      : [...places.keys()].sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
    const takings: { place: KnownPlace; quantity: Quantity }[] = [];
    let open = amount;
    for (const code of codes) {
      const here = places.get(code) ?? ZERO;
      const place = this.snapshot.places.get(code);
      if (open.lte(0) || here.lte(0) || !place || !mayTake(place)) continue;
      const part = here.lt(open) ? here : open;
      takings.push({ place, quantity: part });
      open = open.minus(part);
    }
    if (open.gt(0)) return null;
    const left = new Map(places);
    for (const { place, quantity } of takings)
      left.set(codeKey(place.code), left.get(codeKey(place.code))!.minus(quantity));
    this.left.set(mark, left);
    return takings;
  }
}
