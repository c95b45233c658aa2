import { decidePacking, packingWants } from '../../core/shipping/pack.ts';
import type { Packing } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Goods into a carton, cartons onto a pallet, or out again. */
export const pack: BookingKind<Packing & Circumstances> = {
  right: 'book.ship',
  eventKind: (request) => request.kind,
  wants: packingWants,
  decide: decidePacking
};
