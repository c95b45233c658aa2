import { decideReceipt, receiptWants } from '../../core/receiving/receive.ts';
import type { Receipt } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Goods come in from a supplier. */
export const receive: BookingKind<Receipt & Circumstances> = {
  right: 'book.receive',
  eventKind: () => 'receive',
  wants: receiptWants,
  decide: decideReceipt
};
