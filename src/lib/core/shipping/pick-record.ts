import type { MarkKind, MarkState } from '../catalogue/marking.ts';
import type { FellAway } from './fell-away.ts';

/** A stop of a pick list; without a mark any serial of the product will do. */
export interface PickRecord {
  id: number;
  line: number;
  product: string;
  name: string;
  unit: string;
  /** What one weighs net, in kg; null where nobody said. */
  net: string | null;
  mark: number | null;
  kind: MarkKind;
  number: string | null;
  lot: string | null;
  expires: string | null;
  place: string | null;
  /** Where the list sent the picker when it was made. */
  listed: string | null;
  placeName: string | null;
  quantity: string;
  picked: string;
  packed: string;
  who: string | null;
  /** Why it is no stop any more; null where it is one. */
  fell: FellAway | null;
}

/** A place where some of a mark is free to be fetched, and how much. */
export interface PickablePlace {
  id: number;
  code: string;
  quantity: string;
}

/** A lot or serial in hand, with where it lies. */
export interface Pickable {
  id: number;
  productId: number;
  kind: MarkKind;
  number: string;
  product: string;
  name: string;
  unit: string;
  state: MarkState;
  expires: string | null;
  places: PickablePlace[] | null;
}
