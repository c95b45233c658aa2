import type { FactValues } from '../catalogue/facts.ts';
import type { MarkKind, MarkState } from '../catalogue/marking.ts';

/**
 * One lot, serial or bulk mark as the API and the screens show it. Quantities are decimal strings.
 */
export interface MarkRecord {
  id: number;
  product: string;
  kind: MarkKind;
  number: string | null;
  lot?: string;
  supplierNumber?: string;
  made?: string;
  expires?: string;
  retest?: string;
  facts?: FactValues;
  state: MarkState;
  onHand: string;
  /** Of what is on hand; a trace says it of the product and not of each mark. */
  unit?: string;
}
