import { decideRepack, repackWants } from '../../core/making/repack.ts';
import type { Repack } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** The same goods in other packs. */
export const repack: BookingKind<Repack & Circumstances> = {
  right: 'book.repack',
  eventKind: () => 'repack',
  wants: repackWants,
  decide: decideRepack
};
