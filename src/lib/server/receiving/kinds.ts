import { decideReceipt, receiptWants } from '../../core/receiving/receive.ts';
import { decideOpening, openingWants } from '../../core/receiving/opening.ts';
import type {
  Opening as OpeningRequest,
  Receipt as ReceiptRequest
} from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { Opening, Receipt } from './schemas.ts';

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

/** What lay here before Earmark comes into its ledger. */
export const open: BookingKind<OpeningRequest & Circumstances> = {
  path: 'openings',
  summary: 'Book opening stock: what lay here before Earmark',
  schema: Opening,
  rights: ['book.opening'],
  right: 'book.opening',
  eventKinds: ['opening'],
  eventKind: () => 'opening',
  wants: openingWants,
  decide: decideOpening
};
