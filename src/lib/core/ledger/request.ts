/** What a booking asks for, as it arrives: codes and numbers as typed, quantities as decimal strings. */

export interface MarkNamed { lot?: string; serial?: string }
export interface OrderNamed { kind: 'purchase' | 'work' | 'sales'; number: string }

export interface ReceivedMark extends MarkNamed { quantity?: string; expires?: string; supplierNumber?: string }
export interface ReceiptLine { product: string; place: string; quantity: string; marks?: ReceivedMark[] }
export interface Receipt { document: string; supplier: string; lines: ReceiptLine[] }

export interface BuildLine extends MarkNamed { product: string; quantity?: string; place?: string }
export interface BuildGroup { outputs: BuildLine[]; inputs: BuildLine[] }
export interface Build { document: string; place: string; groups: BuildGroup[] }

export interface ShippedMark extends MarkNamed { quantity?: string }
export interface ShipmentLine { product: string; place?: string; quantity?: string; marks?: ShippedMark[] }
export interface Shipment { document: string; customer: string; lines: ShipmentLine[] }

export interface CorrectionLine extends MarkNamed { product: string; place: string; quantity?: string }
export interface Correction { document: string; kind: 'gain' | 'loss' | 'scrap'; lines: CorrectionLine[] }

export interface QualityDecision { document: string; kind: 'hold' | 'release' | 'reject'; marks: (MarkNamed & { product: string })[] }

/** What must be read before a decision can be taken. */
export interface Wants {
  products: string[];
  places: string[];
  partner: string | null;
  order: OrderNamed | null;
  marks: (MarkNamed & { product: string })[];
  /** Whether the booking takes stock away or changes a state, so that the stock must be locked first. */
  draws: boolean;
}
