/** Everything that can be wrong with a booking; see docs/domain.md. */
export const FAULT_CODES = [
  'mark.missing', 'mark.duplicate', 'mark.unknown', 'mark.wrong-product', 'mark.held', 'mark.rejected', 'mark.expired', 'mark.off-spec',
  'mark.reserved', 'stock.short', 'quantity.mismatch', 'quantity.not-whole', 'number.malformed', 'balance.open', 'fact.missing',
  'date.missing', 'order.closed', 'product.unknown', 'place.unknown', 'partner.unknown', 'right.missing'
] as const;
export type FaultCode = (typeof FAULT_CODES)[number];

export interface Fault {
  code: FaultCode;
  /** Where in the request, as `lines[2].marks[7]`. */
  path: string;
  /** The number, code or document that is wrong. */
  number?: string;
  /** What is wrong, where, and what mends it. */
  message: string;
}

/** Something worth saying that does not stop the booking. */
export interface Note {
  path: string;
  number?: string;
  message: string;
}

/** Gathers all faults of one booking, so that a person is told everything at once. */
export class Faults {
  readonly list: Fault[] = [];
  readonly notes: Note[] = [];

  add(code: FaultCode, path: string, message: string, number?: string): void {
    this.list.push(number === undefined ? { code, path, message } : { code, path, number, message });
  }

  note(path: string, message: string, number?: string): void {
    this.notes.push(number === undefined ? { path, message } : { path, number, message });
  }
}
