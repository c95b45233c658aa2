/**
 * How much of one mark lies at which places. Nearly every mark was only ever at one, and tens of
 * thousands are asked: a map is made use of where there is a second.
 */
export class LyingAt {
  private first = 0;
  private quantity = 0n;
  private readonly others = new Map<number, bigint>();

  clear(): void {
    this.first = 0;
    this.quantity = 0n;
    if (this.others.size > 0) this.others.clear();
  }

  /** @param place its number, above zero */
  add(place: number, quantity: bigint): void {
    if (this.first === 0) this.first = place;
    if (place === this.first) this.quantity += quantity;
    else this.others.set(place, (this.others.get(place) ?? 0n) + quantity);
  }

  /** The places where there is some of it, in the order it came to them. */
  each(tell: (place: number, quantity: bigint) => void): void {
    if (this.quantity > 0n) tell(this.first, this.quantity);
    for (const [place, quantity] of this.others) if (quantity > 0n) tell(place, quantity);
  }
}
