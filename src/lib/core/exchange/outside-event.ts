/** An event another firm told of goods that join ours; `ours` are the marks of ours it names. */
export interface OutsideEvent {
  id: number;
  type: string;
  at: string;
  bizStep: string | null;
  location: string | null;
  sender: string;
  ours: number[];
  names: { role: string; epc: string; quantity: string | null; uom: string | null }[];
}
