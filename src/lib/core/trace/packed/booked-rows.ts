/**
 * Rows of bookings, as they are added to a packed ledger. Quantities are micro-units, shares 10⁻¹²,
 * `at` microseconds since 2000-01-01; kinds by their codes.
 */
export interface BookedRows {
  events: {
    id: number;
    kind: number;
    undoes: number;
    /** The event a reversal took back; 0 for none. */ undone: number;
    at: number;
    partner: number;
    person: number;
  }[];
  marks: {
    id: number;
    product: number;
    /** 1 lot, 2 serial, 3 bulk. */ kind: number;
    /** 0 for none. */ lot: number;
    birth: number;
  }[];
  transformations: {
    id: number;
    event: number;
    /** Whether its outputs are made by others of the event. */ shared: boolean;
    inputs: { mark: number; quantity: bigint }[];
    outputs: { mark: number; quantity: bigint; share: bigint | null }[];
  }[];
  fittings: { component: number; host: number; quantity: bigint; event: number }[];
  /** Parts taken out of their hosts again. */
  removals: { component: number; host: number; quantity: bigint; event: number }[];
  /** Place 0: the mark was changed and not moved. */
  movements: { event: number; mark: number; place: number; quantity: bigint }[];
  takenBack: { transformation: number; event: number }[];
}

/** No rows yet. */
export const noRows = (): BookedRows => ({
  events: [],
  marks: [],
  transformations: [],
  fittings: [],
  removals: [],
  movements: [],
  takenBack: []
});
