import { decideIdentification, identificationWants } from '../../core/stock/give-numbers.ts';
import type { Identification } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Stock that had no number gets one. */
export const giveNumbers: BookingKind<Identification & Circumstances> = {
  right: 'book.identify',
  eventKind: () => 'identify',
  wants: identificationWants,
  decide: decideIdentification
};
