import { sayDay } from '../calendar/say-day.ts';
import {
  ZERO,
  formatQuantity,
  opposite,
  parseQuantity,
  total,
  type Quantity
} from '../quantity/quantity.ts';
import { Births } from '../ledger/birth.ts';
import {
  decided,
  emptyRows,
  type Decision,
  type MarkRef,
  type MovementRow
} from '../ledger/booking.ts';
import { Availability } from '../ledger/draw.ts';
import { Faults } from '../faults/fault.ts';
import { identify } from '../ledger/identity.ts';
import { lineQuantity, serialQuantity } from '../ledger/line-quantity.ts';
import { findMark, findPlace, findProduct, nameOf } from '../ledger/lookup.ts';
import {
  onePerLine,
  type Repack,
  type RepackGroup,
  type RepackLine,
  type Wants
} from '../ledger/request.ts';
import type { KnownMark, KnownProduct, Snapshot } from '../ledger/snapshot.ts';
import { useMark } from '../ledger/use-mark.ts';

export function repackWants(request: Repack): Wants {
  const sources = request.groups.flatMap((group) => group.sources);
  // A result that names no lot may carry over its source's, so that number is looked for under the
  // result's product too.
  const carried = request.groups.flatMap((group) =>
    group.results.flatMap((result) =>
      group.sources.map((source) => ({ product: result.product, lot: source.lot }))
    )
  );
  const lines = [...sources, ...request.groups.flatMap((group) => group.results)];
  return {
    products: lines.map((line) => line.product),
    places: [request.place, ...lines.flatMap((line) => line.place ?? [])],
    partner: null,
    order: null,
    marks: onePerLine([...lines, ...carried]),
    draws: true,
    costs: true
  };
}

/** Decimals of a cent. */
const CENT = 2;

/**
 * Decides a repack: the same goods in other packs. Each group is one lot (or the parts of one kind
 * of kit); net weight is conserved exactly, cost to the cent, and a result takes over its source's
 * lot, dates and supplier number unless it names its own. Expired goods only with a reason.
 * Faults: those of `useMark`, balance.open, mark.missing, mark.expired, quantity.*,
 * product.unknown, place.unknown.
 */
export function decideRepack(snapshot: Snapshot, request: Repack): Decision {
  const faults = new Faults(request.reasons, snapshot.granted);
  const rows = emptyRows();
  const available = new Availability(snapshot);
  const births = new Births(snapshot, rows, faults);
  const usedSerials = new Map<MarkRef, string>();
  const place = findPlace(snapshot, request.place, 'place', faults);
  request.groups.forEach((group, index) => decideGroup(group, `groups[${index}]`));
  return decided(rows, faults, snapshot);

  function decideGroup(group: RepackGroup, path: string): void {
    const before = faults.list.length;
    const inputs = new Map<MarkRef, Quantity>(),
      outputs = new Map<MarkRef, Quantity>();
    const marks: { mark: KnownMark; product: KnownProduct }[] = [];
    let weightIn: Quantity | null = ZERO,
      weightOut: Quantity | null = ZERO,
      costIn: Quantity | null = ZERO;
    group.sources.forEach((line, at) => {
      const here = `${path}.sources[${at}]`;
      const product = findProduct(snapshot, line.product, `${here}.product`, faults);
      const only =
        line.place === undefined ? null : findPlace(snapshot, line.place, `${here}.place`, faults);
      if (!product || (line.place !== undefined && !only)) return;
      const named = findMark(
        snapshot,
        product,
        line.serial?.trim() ? 'serial' : line.lot?.trim() ? 'lot' : 'bulk',
        line.serial?.trim() || line.lot?.trim() || ''
      );
      const used = useMark(
        snapshot,
        available,
        usedSerials,
        {
          product,
          checkpoint: 'issue',
          named: line,
          only,
          first: place,
          path: here,
          mustBeUsable: !expiredWithReason(product, named, here)
        },
        faults
      );
      if (!used) return;
      if (used.mark) marks.push({ mark: used.mark, product });
      inputs.set(used.ref, (inputs.get(used.ref) ?? ZERO).plus(used.quantity));
      weightIn = weigh(weightIn, product, used.quantity, here);
      const cost = costOf(line, here) ?? snapshot.costs.get(used.ref) ?? null;
      costIn = costIn === null || cost === null ? null : costIn.plus(cost.times(used.quantity));
      for (const taking of used.takings)
        rows.movements.push({
          mark: used.ref,
          placeId: taking.place.id,
          quantity: opposite(taking.quantity),
          ...(cost ? { unitCost: cost } : {})
        });
    });
    const carried = carriedFrom(marks, group, path);
    const made: { movement: MovementRow; given: Quantity | null; weight: Quantity }[] = [];
    group.results.forEach((line, at) => {
      const here = `${path}.results[${at}]`;
      const product = findProduct(snapshot, line.product, `${here}.product`, faults);
      const to =
        line.place === undefined ? place : findPlace(snapshot, line.place, `${here}.place`, faults);
      if (!product || !to) return;
      const number =
        product.plan.identity === 'none'
          ? {}
          : {
              lot:
                line.lot?.trim() ||
                (product.plan.identity === 'serial' ? undefined : carried?.number) ||
                undefined,
              serial: line.serial
            };
      const identity = identify(product, number, 'output', here, faults);
      const amount =
        identity &&
        (identity.kind === 'serial'
          ? serialQuantity(product, identity.number, line.quantity, here, faults)
          : lineQuantity(product, line.quantity ?? '', here, faults));
      if (!identity || !amount) return;
      const existing = findMark(snapshot, product, identity.kind, identity.number);
      if (existing?.kind === 'serial')
        return faults.add(
          'mark.duplicate',
          here,
          `Serial ${existing.number} of ${product.code} exists already. Give another number.`,
          existing.number!
        );
      if (
        existing?.kind === 'lot' &&
        carried &&
        existing.expires !== carried.expires &&
        !line.expires
      )
        faults.note(
          here,
          `${nameOf(existing, product)} is there already${existing.expires ? `, expiring ${sayDay(existing.expires)}` : ''}; this adds to it.`,
          existing.number!
        );
      const ref =
        existing?.id ??
        (identity.kind === 'lot' ? births.lotMade(product, identity.number) : undefined) ??
        births.make({
          product,
          identity,
          path: here,
          madeHere: false,
          earliestComponent: carried?.earliest ?? null,
          with: {
            ...line,
            expires: line.expires?.trim() || carried?.earliest || undefined,
            made: carried?.made ?? undefined,
            retest: carried?.retest ?? undefined,
            supplierNumber: carried?.supplierNumber ?? undefined
          }
        });
      weightOut = weigh(weightOut, product, amount, here);
      if (ref === null) return;
      outputs.set(ref, (outputs.get(ref) ?? ZERO).plus(amount));
      const movement: MovementRow = { mark: ref, placeId: to.id, quantity: amount };
      made.push({
        movement,
        given: costOf(line, here),
        weight: amount.times(product.netWeightKg ?? 0)
      });
      rows.movements.push(movement);
      rows.answer.push(ref);
    });
    if (
      weightIn &&
      weightOut &&
      faults.list.length === before &&
      !(weightIn as Quantity).eq(weightOut)
    ) {
      const off = (weightIn as Quantity).minus(weightOut);
      faults.add(
        'balance.open',
        path,
        `${formatQuantity(weightIn)} kg go in and ${formatQuantity(weightOut)} kg come out: ${formatQuantity(off.abs())} kg ${off.gt(0) ? 'are missing' : 'are too many'}. Net weight is conserved to the gram: mend a quantity, or book what was lost as scrap first.`
      );
    }
    settleCosts(costIn, made, path);
    rows.transformations.push({ inputs: list(inputs), outputs: list(outputs) });
  }

  function weigh(
    sum: Quantity | null,
    product: KnownProduct,
    amount: Quantity,
    path: string
  ): Quantity | null {
    if (product.netWeightKg !== null) return sum && sum.plus(amount.times(product.netWeightKg));
    faults.add(
      'balance.open',
      path,
      `${product.code} ${product.name} has no net weight, so nobody can say whether the repack balances. Set it on the product first.`,
      product.code
    );
    return null;
  }

  function costOf(line: RepackLine, path: string): Quantity | null {
    if (line.unitCost === undefined || line.unitCost.trim() === '') return null;
    const cost = parseQuantity(line.unitCost);
    if (cost === null || cost.lt(0))
      faults.add('quantity.mismatch', path, `“${line.unitCost}” is no cost of one unit.`);
    return cost;
  }

  /**
   * Cost is conserved to the cent: what is given must add up, what is not given is shared by
   * weight.
   */
  function settleCosts(
    costIn: Quantity | null,
    made: readonly { movement: MovementRow; given: Quantity | null; weight: Quantity }[],
    path: string
  ): void {
    const given = made.filter((one) => one.given !== null);
    if (costIn === null || (costIn.isZero() && given.length === 0) || made.length === 0) {
      for (const one of given) one.movement.unitCost = one.given!;
      return;
    }
    const said = total(given.map((one) => one.given!.times(one.movement.quantity)));
    const open = made.filter((one) => one.given === null);
    const rest = costIn.minus(said);
    if (
      (open.length === 0 && !rest.toDecimalPlaces(CENT).isZero()) ||
      rest.toDecimalPlaces(CENT).lt(0)
    ) {
      faults.add(
        'balance.open',
        path,
        `Cost goes in as ${costIn.toFixed(CENT)} and comes out as ${said.toFixed(CENT)}. Make the two the same to the cent, or leave one cost empty to take the rest.`
      );
      return;
    }
    const weight = total(open.map((one) => one.weight));
    for (const one of given) one.movement.unitCost = one.given!;
    for (const one of open)
      one.movement.unitCost = (
        weight.isZero() ? rest.div(open.length) : rest.times(one.weight).div(weight)
      )
        .div(one.movement.quantity)
        .toDecimalPlaces(6);
  }

  /** Expired goods may be repacked, as for disposal, but only with a written reason. */
  function expiredWithReason(product: KnownProduct, mark: KnownMark | null, path: string): boolean {
    if (!mark) return false;
    const lot = mark.lotId === null ? undefined : snapshot.marksById.get(mark.lotId);
    const expires = mark.expires ?? lot?.expires ?? null;
    if (
      expires === null ||
      expires >= snapshot.day ||
      mark.state !== 'usable' ||
      (lot && lot.state !== 'usable')
    )
      return false;
    const message = `${nameOf(mark, product)} expired on ${sayDay(expires)}.`;
    const reason = request.reason?.trim() || request.reasons?.['mark.expired']?.trim();
    if (reason) {
      faults.remarks.push({
        code: 'mark.expired',
        answer: 'reason',
        number: mark.number,
        message,
        reason,
        approval: null
      });
      return true;
    }
    faults.add(
      'mark.expired',
      path,
      `${message} It is repacked only with a written reason.`,
      mark.number!
    );
    faults.list.at(-1)!.answer = 'reason';
    return true;
  }

  /**
   * What a result takes over: the lot of its source where there is one, and the earliest expiry of
   * all that goes in.
   */
  function carriedFrom(
    marks: readonly { mark: KnownMark; product: KnownProduct }[],
    group: RepackGroup,
    path: string
  ) {
    const lots = new Map(
      marks.map(({ mark }) => {
        const lot =
          mark.kind === 'lot'
            ? mark
            : mark.lotId === null
              ? mark
              : (snapshot.marksById.get(mark.lotId) ?? mark);
        return [lot.id, lot];
      })
    );
    const products = new Set(marks.map(({ product }) => product.id));
    if (
      lots.size > 1 &&
      products.size === 1 &&
      group.results.some((result) => !result.lot?.trim() && !result.serial?.trim())
    ) {
      faults.add(
        'balance.open',
        path,
        `Lots ${[...lots.values()].map((lot) => lot.number).join(' and ')} would be mixed. Keep each lot apart in a step of its own, or give the mixture a lot number of its own.`
      );
    }
    const days = [...lots.values()].flatMap((lot) => lot.expires ?? []);
    const earliest = days.length === 0 ? null : days.reduce((a, b) => (a < b ? a : b));
    const [first] = lots.values();
    return lots.size === 1 && products.size === 1 && first
      ? {
          number: first.number ?? undefined,
          expires: first.expires,
          earliest,
          made: first.made,
          retest: first.retest,
          supplierNumber: first.supplierNumber
        }
      : {
          number: undefined,
          expires: earliest,
          earliest,
          made: null,
          retest: null,
          supplierNumber: null
        };
  }
}

const list = (map: ReadonlyMap<MarkRef, Quantity>) =>
  [...map].map(([mark, quantity]) => ({ mark, quantity }));
