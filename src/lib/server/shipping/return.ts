import type { GoodsReturn } from '../../core/ledger/request.ts';
import { decideReturn, returnWants } from '../../core/shipping/return.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Shipped goods come back and are held until somebody decides. */
export const goodsReturn: BookingKind<GoodsReturn & Circumstances> = {
  right: 'book.return',
  eventKind: () => 'return',
  wants: returnWants,
  decide: decideReturn
};
