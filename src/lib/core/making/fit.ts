import { Faults } from '../faults/fault.ts';
import { decided, emptyRows, type Decision } from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { findPlace } from '../ledger/lookup.ts';
import { checkPromises } from '../ledger/promises.ts';
import { onePerLine, type Fitting, type HostFitting, type Wants } from '../ledger/request.ts';
import type { Snapshot } from '../ledger/snapshot.ts';
import type { FittingSheet } from './fitting-sheet.ts';
import { findHost, type Host } from './host.ts';
import { putIn } from './put-in.ts';
import { takeOut } from './take-out.ts';

export const fittingWants = (request: Fitting): Wants => {
  const fits = request.units.flatMap((unit) => unit.fit ?? []);
  const removes = request.units.flatMap((unit) => unit.remove ?? []);
  const lines = [...request.units, ...fits, ...removes];
  return {
    products: lines.map((line) => line.product),
    places: [
      request.place,
      ...fits.flatMap((line) => line.from ?? []),
      ...removes.map((line) => line.to)
    ],
    partner: null,
    order: null,
    marks: onePerLine(lines),
    draws: true,
    asBuilt: { hosts: onePerLine(request.units) },
    promises: true,
    goneIfRefused: true
  };
};

/** What a booking of fittings is: both at once is a swap. */
export function fittingKind({ units }: Fitting): 'fit' | 'remove' | 'swap' {
  const fits = units.some((unit) => (unit.fit ?? []).length > 0);
  const removes = units.some((unit) => (unit.remove ?? []).length > 0);
  if (fits && removes) return 'swap';
  return removes ? 'remove' : 'fit';
}

/**
 * Decides fitting parts into units and taking parts out of them. What comes out of one unit may go
 * into another in the same booking. A unit has its parts whole or as a share of what went into its
 * batch, and gives back no more than is in it.
 * Faults: part.absent, part.fitted, those of `useMark`, mark.missing, mark.duplicate,
 * quantity.mismatch, mark.reserved, product.unknown, place.unknown.
 */
export function decideFitting(snapshot: Snapshot, request: Fitting): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const sheet: FittingSheet = {
    ...{ snapshot, rows, faults, available: new Availability(snapshot), scrapped: [] },
    place: findPlace(snapshot, request.place, 'place', faults),
    usedSerials: new Map(),
    taken: new Map(),
    hosts: new Set()
  };
  const hosts = request.units.map((unit, at) => readHost(sheet, unit, `units[${at}]`));
  // All that comes out lies there before anything goes in.
  request.units.forEach((unit, at) =>
    (unit.remove ?? []).forEach((line, n) =>
      takeOut(sheet, hosts[at]!, line, `units[${at}].remove[${n}]`)
    )
  );
  request.units.forEach((unit, at) =>
    (unit.fit ?? []).forEach((line, n) => putIn(sheet, hosts[at]!, line, `units[${at}].fit[${n}]`))
  );
  checkPromises(snapshot, sheet.available, sheet.taken, request.document, faults);
  if (sheet.scrapped.length > 0)
    rows.scrapped = { movements: sheet.scrapped, reason: request.reason?.trim() ?? '' };
  return decided(rows, faults, snapshot);
}

/** The unit that parts go into: one that lies here, named once, with something to do. */
function readHost(sheet: FittingSheet, unit: HostFitting, path: string): Host | null {
  const { faults, snapshot, rows } = sheet;
  const host = findHost(snapshot, faults, unit, path);
  if (!host) return null;
  const { mark, product } = host;
  const name = `Serial ${mark.number} of ${product.code}`;
  if ((unit.fit ?? []).length + (unit.remove ?? []).length === 0)
    faults.add('mark.missing', path, `Say what goes into ${name}, or comes out.`, mark.number!);
  if (sheet.hosts.has(mark.id))
    faults.add('mark.duplicate', path, `${name} is named twice. Put both together.`, mark.number!);
  if (!snapshot.stock.has(mark.id)) {
    const message = `${name} is not on hand, so nothing goes into it here. Take it in first.`;
    faults.add('stock.short', path, message, mark.number!);
  }
  sheet.hosts.add(mark.id);
  rows.answer.push(mark.id);
  return host;
}
