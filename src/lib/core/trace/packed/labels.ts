/**
 * Two clocks beside each place of a walk that grows: the earliest arrival by happening and by
 * booking. Upstream both are negated, so that the latest taking reads as the earliest.
 */
export class Labels {
  happened = new Float64Array(1024);
  booked = new Float64Array(1024);

  set(place: number, happened: number, booked: number): void {
    if (place >= this.happened.length) this.grow(place + 1);
    this.happened[place] = happened;
    this.booked[place] = booked;
  }

  /** Makes a place earlier by either clock. @returns whether it became so */
  lower(place: number, happened: number, booked: number): boolean {
    const earlier = happened < this.happened[place]! || booked < this.booked[place]!;
    if (happened < this.happened[place]!) this.happened[place] = happened;
    if (booked < this.booked[place]!) this.booked[place] = booked;
    return earlier;
  }

  /** Whether what was at these clocks was at the place's or later by either. */
  covers(place: number, happened: number, booked: number): boolean {
    return happened >= this.happened[place]! || booked >= this.booked[place]!;
  }

  /** Puts the places in another order: `order` names the old place of each new one. */
  reorder(order: Uint32Array): void {
    const happened = Float64Array.from(order, (place) => this.happened[place]!),
      booked = Float64Array.from(order, (place) => this.booked[place]!);
    this.happened.set(happened);
    this.booked.set(booked);
  }

  private grow(least: number): void {
    const size = Math.max(least, this.happened.length * 2);
    const happened = new Float64Array(size),
      booked = new Float64Array(size);
    happened.set(this.happened);
    booked.set(this.booked);
    this.happened = happened;
    this.booked = booked;
  }
}
