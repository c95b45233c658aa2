import { buildWants, decideBuild } from '../../core/making/build.ts';
import type { Build } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';

/** Components become finished units or a batch. */
export const build: BookingKind<Build & Circumstances> = {
  right: 'book.build',
  eventKind: () => 'build',
  wants: buildWants,
  decide: decideBuild
};
