import type { FellAway } from '../../core/shipping/fell-away.ts';

/** A stop of a pick list as the screens show it; quantities are decimal strings. */
export interface Pick {
  id: number;
  product: string;
  unit: string;
  kind: 'lot' | 'serial' | 'bulk';
  number: string | null;
  lot: string | null;
  place: string | null;
  placeName: string | null;
  quantity: string;
  picked: string;
  packed: string;
  who: string | null;
  fell: FellAway | null;
}

/** What is to be fetched there, as it is called. */
export const sayWhat = (pick: Pick): string =>
  pick.number ?? (pick.kind === 'bulk' ? pick.product : 'any free serial');
