import { numbersComeLater } from '../catalogue/plan.ts';
import { quantity, ZERO, type Quantity } from '../quantity/quantity.ts';
import type { Births } from './birth.ts';
import type { MarkRef, Rows } from './booking.ts';
import type { Availability } from './draw.ts';
import type { Identity } from './identity.ts';
import { findMark } from './lookup.ts';
import {
  isFree,
  markKey,
  type KnownMark,
  type KnownPlace,
  type KnownProduct,
  type Snapshot
} from './snapshot.ts';

/** The stock without number that a number is given to: the lot it is within, or the bulk mark. */
export function unnumberedSource(
  snapshot: Snapshot,
  product: KnownProduct,
  lot: string | null
): KnownMark | null {
  return lot === null
    ? findMark(snapshot, product, 'bulk', '')
    : findMark(snapshot, product, 'lot', lot);
}

/**
 * Numbers given on the way, when goods are used or shipped whose plan asks for the number only now:
 * the unit leaves the stock without number and becomes a mark of its own, in an event of kind
 * identify before the booking's own.
 */
export class LateNumbers {
  private readonly given = new Map<MarkRef, { mark: MarkRef; quantity: Quantity }[]>();
  private readonly byNumber = new Map<string, MarkRef>();

  constructor(
    private readonly snapshot: Snapshot,
    private readonly rows: Rows,
    private readonly births: Births,
    private readonly available: Availability
  ) {}

  /**
   * Gives a new serial to one unit of unnumbered stock; it then lies where the unit lay.
   * @returns the new mark; null where the plan does not leave numbers for later, no such stock is
   * there, or a fault was added
   */
  give(
    product: KnownProduct,
    identity: Identity,
    only: KnownPlace | null,
    first: KnownPlace | null,
    path: string
  ): MarkRef | null {
    if (identity.kind !== 'serial' || !numbersComeLater(product.plan)) return null;
    // Named a second time it is the same unit, which is for the caller to refuse.
    const key = markKey(product.id, 'serial', identity.number);
    const before = this.byNumber.get(key);
    if (before !== undefined) return before;
    const source = unnumberedSource(
      this.snapshot,
      product,
      product.plan.identity === 'serial-in-lot' ? identity.lot : null
    );
    if (!source || (product.plan.identity === 'serial-in-lot' && identity.lot === null))
      return null;
    const takings = this.available.take(source.id, quantity(1), only, first, isFree);
    if (!takings) return null;
    const ref = this.births.make({
      product,
      identity,
      with: { expires: source.expires ?? undefined, made: source.made ?? undefined },
      madeHere: false,
      earliestComponent: null,
      path,
      byIdentify: true
    });
    if (ref === null) return null;
    this.byNumber.set(key, ref);
    const { place } = takings[0]!;
    this.rows.identified.movements.push(
      { mark: source.id, placeId: place.id, quantity: quantity(-1) },
      { mark: ref, placeId: place.id, quantity: quantity(1) }
    );
    this.available.add(ref, place, quantity(1));
    this.given.set(source.id, [
      ...(this.given.get(source.id) ?? []),
      { mark: ref, quantity: quantity(1) }
    ]);
    return ref;
  }

  /**
   * Ties the new marks to what they were: one transformation for each source. Called once, when all
   * lines are decided.
   */
  finish(): void {
    for (const [source, outputs] of this.given) {
      this.rows.identified.transformations.push({
        inputs: [
          {
            mark: source,
            quantity: outputs.reduce((sum, output) => sum.plus(output.quantity), ZERO)
          }
        ],
        outputs
      });
    }
  }
}
