import { sayMicro } from './amounts.ts';

/** Amounts as strings, each written once. */
export class Amounts {
  private readonly places = new Map<bigint, number>();
  readonly texts: string[] = [];
  place(micro: bigint): number {
    let place = this.places.get(micro);
    if (place === undefined) {
      this.places.set(micro, (place = this.texts.length));
      this.texts.push(sayMicro(micro));
    }
    return place;
  }
}
