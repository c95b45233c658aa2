import { takeDates, type Dates } from '../catalogue/dates.ts';
import { takeFacts } from '../catalogue/facts.ts';
import { addNewMark, type MarkRef, type NewMark, type Rows } from './booking.ts';
import type { Faults } from '../faults/fault.ts';
import type { Identity } from './identity.ts';
import { fitsSupplierNumber } from './supplier-number.ts';
import { findMark } from './lookup.ts';
import type { BornWith } from './request.ts';
import { markKey, type KnownProduct, type Snapshot } from './snapshot.ts';

/** A mark that comes to be, and what is said of it. */
export interface Born {
  product: KnownProduct;
  identity: Identity;
  with: BornWith;
  madeHere: boolean;
  /** Earliest expiry of what it was made of, for plans that take it over. */
  earliestComponent: string | null;
  path: string;
  byIdentify?: true;
}

const NO_DATES: Dates = { made: null, expires: null, retest: null };

/**
 * The marks one booking brings into the world, and the lots its serials are within, each made once.
 */
export class Births {
  private readonly lots = new Map<string, MarkRef>();

  constructor(
    private readonly snapshot: Snapshot,
    private readonly rows: Rows,
    private readonly faults: Faults
  ) {}

  /**
   * Makes a mark that is not there yet, with the dates and facts its plan asks for.
   * @returns how the rows name it; null after a fault
   */
  make(born: Born): MarkRef | null {
    const { product, identity, path } = born;
    const number = identity.number || undefined;
    if (identity.kind === 'bulk') return this.add(born, NO_DATES, null, {});
    const dates = takeDates(
      product.plan,
      product.code,
      born.with,
      {
        day: this.snapshot.day,
        madeHere: born.madeHere,
        earliestComponent: born.earliestComponent
      },
      path,
      number,
      this.faults
    );
    const facts = takeFacts(product.plan, product.code, born.with.facts, path, number, this.faults);
    const supplierNumber = born.with.supplierNumber?.trim() || null;
    if (supplierNumber !== null && !fitsSupplierNumber(supplierNumber, path, this.faults))
      return null;
    return dates && facts ? this.add(born, dates, supplierNumber, facts) : null;
  }

  private add(
    { product, identity, byIdentify }: Born,
    dates: Dates,
    supplierNumber: string | null,
    facts: Rows['newMarks'][number]['facts']
  ): MarkRef {
    const mark: NewMark = {
      productId: product.id,
      kind: identity.kind,
      number: identity.kind === 'bulk' ? null : identity.number,
      lot: identity.lot === null ? null : this.lotOf(product, identity.lot, dates, byIdentify),
      supplierNumber,
      madeOn: dates.made,
      expiresOn: dates.expires,
      retestOn: dates.retest,
      warrantyMonths: identity.kind === 'bulk' ? null : product.plan.warrantyMonths,
      facts
    };
    if (byIdentify) mark.byIdentify = true;
    const ref = addNewMark(this.rows, mark);
    // A lot made by its own row is the lot of the serials that follow.
    if (identity.kind === 'lot') this.lots.set(markKey(product.id, 'lot', identity.number), ref);
    return ref;
  }

  /** The lot a serial is within: known, or made with the dates of its first serial. */
  private lotOf(
    product: KnownProduct,
    lot: string,
    dates: Dates,
    byIdentify: true | undefined
  ): MarkRef {
    const key = markKey(product.id, 'lot', lot);
    const known = this.lots.get(key) ?? findMark(this.snapshot, product, 'lot', lot)?.id;
    if (known !== undefined) return known;
    const ref = addNewMark(this.rows, {
      productId: product.id,
      kind: 'lot',
      number: lot,
      lot: null,
      supplierNumber: null,
      madeOn: dates.made,
      expiresOn: dates.expires,
      retestOn: dates.retest,
      warrantyMonths: null,
      facts: {},
      ...(byIdentify ? { byIdentify } : {})
    });
    this.lots.set(key, ref);
    return ref;
  }

  /** The lot made earlier in this booking, if it was. */
  lotMade(product: KnownProduct, lot: string): MarkRef | undefined {
    return this.lots.get(markKey(product.id, 'lot', lot));
  }
}
