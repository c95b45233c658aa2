import { Faults, type Fault } from '../faults/fault.ts';
import { numberKey, shown } from '../numbers/number.ts';
import { lineQuantity, type Counted } from '../ledger/line-quantity.ts';
import { formatQuantity } from '../quantity/quantity.ts';

/** How much of a product is to go to another site. */
export interface OrderedLine {
  product: string;
  quantity: string;
}

/** A product as an order for a transfer needs it; `id` is its own. */
export interface OrderedProduct extends Omit<Counted, 'units'> {
  id: number;
}

const OWN_UNIT_ONLY: Counted['units'] = new Map();

/** A line that may be kept. */
export interface KeptLine {
  productId: number;
  quantity: string;
}

/**
 * Decides what a transfer ordered ahead asks for: each product once, in its own unit.
 * Faults: product.unknown, mark.duplicate, quantity.mismatch, quantity.not-whole.
 * @param products those that exist, by `numberKey` of their code
 */
export function decideTransferOrder(
  lines: readonly OrderedLine[],
  products: ReadonlyMap<string, OrderedProduct>
): { lines: KeptLine[]; faults: Fault[] } {
  const faults = new Faults();
  const first = new Map<number, number>();
  const kept: KeptLine[] = [];
  lines.forEach((line, index) => {
    const path = `lines[${index}]`;
    const product = products.get(numberKey(line.product));
    if (!product) {
      const message = `There is no product ${shown(line.product)}. Check the code.`;
      faults.add('product.unknown', `${path}.product`, message, line.product);
      return;
    }
    const before = first.get(product.id);
    first.set(product.id, before ?? index);
    if (before !== undefined) {
      const message = `${product.code} stands in line ${before + 1} already. Add the two up.`;
      faults.add('mark.duplicate', `${path}.product`, message, product.code);
      return;
    }
    const counted = { ...product, units: OWN_UNIT_ONLY };
    const amount = lineQuantity(counted, line.quantity, `${path}.quantity`, faults);
    if (amount !== null) kept.push({ productId: product.id, quantity: formatQuantity(amount) });
  });
  return { lines: kept, faults: faults.list };
}
