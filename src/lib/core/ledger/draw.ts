import { formatQuantity, total, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { MarkRef } from './booking.ts';
import { codeKey, type KnownPlace, type Snapshot } from './snapshot.ts';

/** What is still there while a booking is decided: stock less what earlier rows took, plus what earlier groups made. */
export class Availability {
  private readonly left = new Map<MarkRef, Map<string, Quantity>>();

  constructor(private readonly snapshot: Snapshot) {}

  private at(mark: MarkRef): Map<string, Quantity> {
    let places = this.left.get(mark);
    if (!places) this.left.set(mark, (places = new Map(this.snapshot.stock.get(mark) ?? [])));
    return places;
  }

  add(mark: MarkRef, place: KnownPlace, amount: Quantity): void {
    const places = this.at(mark);
    places.set(codeKey(place.code), (places.get(codeKey(place.code)) ?? ZERO).plus(amount));
  }

  /** How much lies at one place, or everywhere. */
  amount(mark: MarkRef, place?: KnownPlace): Quantity {
    return place ? (this.at(mark).get(codeKey(place.code)) ?? ZERO) : total(this.at(mark).values());
  }

  /** Where it lies, as `DOCK 12 and B2 4`; for messages. */
  describe(mark: MarkRef): string {
    return [...this.at(mark)].filter(([, amount]) => amount.gt(0)).map(([code, amount]) => `${this.snapshot.places.get(code)?.code ?? code} ${formatQuantity(amount)}`).join(' and ');
  }

  /**
   * Takes an amount away: from `only` where a place is named, otherwise from `first` and then from the other places in the order of their codes.
   * @returns the takings by place, or null where there is not enough; then nothing was taken
   */
  take(mark: MarkRef, amount: Quantity, only: KnownPlace | null, first: KnownPlace | null): { place: KnownPlace; quantity: Quantity }[] | null {
    const places = this.at(mark);
    const codes = only ? [codeKey(only.code)] : [...places.keys()].sort((a, b) => rank(a) - rank(b) || (a < b ? -1 : 1));
    const takings: { place: KnownPlace; quantity: Quantity }[] = [];
    let open = amount;
    for (const code of codes) {
      const here = places.get(code) ?? ZERO;
      const place = this.snapshot.places.get(code);
      if (open.lte(0) || here.lte(0) || !place) continue;
      const part = here.lt(open) ? here : open;
      takings.push({ place, quantity: part });
      open = open.minus(part);
    }
    if (open.gt(0)) return null;
    for (const { place, quantity } of takings) places.set(codeKey(place.code), places.get(codeKey(place.code))!.minus(quantity));
    return takings;

    function rank(code: string): number { return first && code === codeKey(first.code) ? 0 : 1; }
  }
}
