// What the demo knows of its own stock while it plans its year; the ledger checks every booking all
// the same.

export interface Holding {
  product: string;
  lot?: string;
  serial?: string;
  left: number;
  expires?: string;
}

export class StoreRoom {
  private readonly holdings: Holding[] = [];

  put(holding: Holding): void {
    this.holdings.push(holding);
  }

  /** Withdraws a lot from further use. */
  block(lot: string): void {
    for (const holding of this.holdings) if (holding.lot === lot) holding.left = 0;
  }

  /** Takes a quantity, first expired first and then first in, never what is expired on the day. */
  take(
    product: string,
    amount: number,
    day: string
  ): { product: string; lot?: string; serial?: string; quantity: string }[] {
    const usable = this.holdings
      .filter(
        (row) =>
          row.product === product &&
          row.left > 0 &&
          (row.expires === undefined || row.expires > day)
      )
      .sort((a, b) =>
        (a.expires ?? '9999') < (b.expires ?? '9999')
          ? -1
          : (a.expires ?? '9999') > (b.expires ?? '9999')
            ? 1
            : 0
      );
    const taken: { product: string; lot?: string; serial?: string; quantity: string }[] = [];
    let open = amount;
    for (const row of usable) {
      if (open <= 1e-9) break;
      const part = Math.min(row.left, open);
      row.left = round(row.left - part);
      open = round(open - part);
      taken.push({
        product,
        ...(row.serial === undefined
          ? row.lot === undefined
            ? {}
            : { lot: row.lot }
          : { serial: row.serial }),
        quantity: String(round(part))
      });
    }
    if (open > 1e-9)
      throw new Error(`The demo plans ${open} ${product} more than it has on ${day}.`);
    return taken;
  }

  has(product: string): number {
    return round(
      this.holdings.filter((row) => row.product === product).reduce((sum, row) => sum + row.left, 0)
    );
  }
}

export const round = (value: number): number => Math.round(value * 1e6) / 1e6;
