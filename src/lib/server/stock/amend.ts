import { amendmentWants, decideAmendment } from '../../core/stock/amend.ts';
import type { Amendment } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** What is wrong on a mark is put right; the old value stays. */
export const amend: BookingKind<Amendment & Circumstances> = {
  right: 'amend',
  eventKind: () => 'amendment',
  wants: amendmentWants,
  decide: decideAmendment
};
