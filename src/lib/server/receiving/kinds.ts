import { decideReceipt, receiptWants } from '../../core/receiving/receive.ts';
import type { Receipt as ReceiptRequest } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { Receipt } from './schemas.ts';

/** Goods come in from a supplier. */
export const receive: BookingKind<ReceiptRequest & Circumstances> = {
  path: 'receipts',
  summary: 'Book a receipt',
  schema: Receipt,
  rights: ['book.receive'],
  right: 'book.receive',
  eventKinds: ['receive'],
  eventKind: () => 'receive',
  wants: receiptWants,
  decide: decideReceipt
};
