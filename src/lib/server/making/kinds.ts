import { buildWants, decideBuild } from '../../core/making/build.ts';
import { decideFitting, fittingKind, fittingWants } from '../../core/making/fit.ts';
import { decideRepack, repackWants } from '../../core/making/repack.ts';
import { decideTeardown, teardownWants } from '../../core/making/teardown.ts';
import type {
  Build as BuildRequest,
  Repack as RepackRequest,
  Teardown as TeardownRequest,
  Fitting as FittingRequest
} from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { carryCosts } from '../stock/costs/carry-costs.ts';
import { Build, Fitting, Repack, Teardown } from './schemas.ts';

/** Components become finished units or a batch. */
export const build: BookingKind<BuildRequest & Circumstances> = {
  path: 'builds',
  summary: 'Book a build',
  schema: Build,
  rights: ['book.build'],
  right: 'book.build',
  eventKinds: ['build'],
  eventKind: () => 'build',
  wants: buildWants,
  decide: decideBuild
};

/** The same goods in other packs. */
export const repack: BookingKind<RepackRequest & Circumstances> = {
  path: 'repacks',
  summary: 'Book a repack: the same goods in other packs, net weight and cost conserved',
  schema: Repack,
  rights: ['book.repack'],
  right: 'book.repack',
  eventKinds: ['repack'],
  eventKind: () => 'repack',
  before: carryCosts,
  wants: repackWants,
  decide: decideRepack
};

/** Parts into a unit, out of it, or both. */
export const fit: BookingKind<FittingRequest & Circumstances> = {
  path: 'fittings',
  summary: 'Fit parts into units and take parts out of them (kind: fit, remove, swap)',
  schema: Fitting,
  rights: ['book.repack'],
  right: 'book.repack',
  eventKinds: ['fit', 'remove', 'swap'],
  eventKind: fittingKind,
  wants: fittingWants,
  decide: decideFitting
};

/** A made unit back into its components. */
export const teardown: BookingKind<TeardownRequest & Circumstances> = {
  path: 'teardowns',
  summary: 'Book a teardown: a unit back into its parts',
  schema: Teardown,
  rights: ['book.repack'],
  right: 'book.repack',
  eventKinds: ['teardown'],
  eventKind: () => 'teardown',
  wants: teardownWants,
  decide: decideTeardown
};
