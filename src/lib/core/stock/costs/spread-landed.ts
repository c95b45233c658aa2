import type { LandedBy, Revaluation } from '../../ledger/request.ts';
import type { KnownEvent, KnownMark, KnownProduct } from '../../ledger/snapshot.ts';
import { nameOf } from '../../ledger/lookup.ts';
import { shown } from '../../numbers/number.ts';
import { parseQuantity, total, type Quantity } from '../../quantity/quantity.ts';
import { broughtBy, type Revaluing } from './revaluing.ts';
import { COST_DIGITS } from './mix.ts';

/** A mark that came in, with what is asked of it. */
interface Came {
  mark: KnownMark;
  product: KnownProduct;
  quantity: Quantity;
  /** The cost of one without what is spread now. */
  cost: Quantity;
}

/**
 * Freight, duty and the like, spread over all that came in by a receipt: by what it cost, by how
 * much it is, or by net weight. It comes on top of what one cost before.
 * Faults: quantity.mismatch, cost.missing.
 */
export function spreadLanded(
  revaluing: Revaluing,
  receipt: KnownEvent,
  { amount: typed, by }: NonNullable<Revaluation['landed']>
): void {
  const { faults, told } = revaluing;
  const amount = parseQuantity(typed);
  if (amount === null || amount.lte(0)) {
    const message = `“${shown(typed)}” is no amount to be spread. Give a number above 0, such as 120.50.`;
    faults.add('quantity.mismatch', 'landed.amount', message);
    return;
  }
  const came = cameBy(revaluing, receipt);
  const weights = came && weightsOf(revaluing, came, by);
  if (!came || !weights) return;
  const all = total(weights);
  if (all.isZero()) {
    const message = `Nothing that came in by event ${receipt.id} has any ${by}. Spread the cost by something else.`;
    faults.add('cost.missing', 'landed.by', message);
    return;
  }
  came.forEach(({ mark, quantity, cost }, at) => {
    const share = amount.times(weights[at]!).div(all).div(quantity);
    told.set(mark.id, cost.plus(share).toDecimalPlaces(COST_DIGITS));
  });
}

/** What came in, each with its cost; null after a fault: on an unknown cost nothing is put. */
function cameBy({ snapshot, faults, told }: Revaluing, receipt: KnownEvent): Came[] | null {
  const products = new Map([...snapshot.products.values()].map((one) => [one.id, one]));
  const came: Came[] = [];
  for (const id of broughtBy(receipt)) {
    const mark = snapshot.marksById.get(id)!;
    const product = products.get(mark.productId)!;
    const cost = told.get(id) ?? receipt.costs.get(id) ?? null;
    const moved = receipt.movements.filter((one) => one.mark === id && one.quantity.gt(0));
    if (cost !== null) {
      came.push({ mark, product, quantity: total(moved.map((one) => one.quantity)), cost });
      continue;
    }
    const message = `What ${nameOf(mark, product)} of ${product.code} cost is not known, so nothing can come on top of it. Give its cost first, or with this.`;
    faults.add('cost.missing', 'landed', message, mark.number ?? product.code);
  }
  return came.some(({ quantity }) => quantity.isZero()) || faults.list.length > 0 ? null : came;
}

function weightsOf({ faults }: Revaluing, came: readonly Came[], by: LandedBy): Quantity[] | null {
  if (by === 'value') return came.map(({ quantity, cost }) => quantity.times(cost));
  if (by === 'quantity') {
    const units = [...new Set(came.map(({ product }) => product.unit))];
    if (units.length <= 1) return came.map(({ quantity }) => quantity);
    const message = `What came in is counted in ${units.join(' and ')}, which do not add up. Spread the cost by value or weight.`;
    faults.add('quantity.mismatch', 'landed.by', message);
    return null;
  }
  const light = came.find(({ product }) => product.netWeightKg === null);
  if (!light) return came.map(({ quantity, product }) => quantity.times(product.netWeightKg!));
  const { product } = light;
  const message = `${product.code} ${product.name} has no net weight. Set it on the product, or spread the cost by value or quantity.`;
  faults.add('cost.missing', 'landed.by', message, product.code);
  return null;
}
