import type { Marking } from './marking.ts';
import { hasSerials } from './plan.ts';
import { quantity } from '../quantity/quantity.ts';
import type { BillPart } from './bill.ts';

/** A part of the bill with what is known of the product. */
export interface Component extends BillPart {
  name: string;
  unit: string;
  marking: Marking;
  /** Alternates with how they are marked. */ others: readonly {
    product: string;
    name: string;
    marking: Marking;
  }[];
}

/** One thing to name for a unit: a serial in its position, or the lot a quantity is drawn from. */
export interface Position {
  key: string;
  component: Component;
  label: string;
  perUnit: string;
  serial: boolean;
}

/**
 * What is to be named for each finished unit: a position for every serial that goes in, one lot for
 * what comes by lot.
 * Parts followed per batch or drawn by themselves are not named for a unit.
 */
export function positionsOf(components: readonly Component[]): Position[] {
  return components.flatMap((component): Position[] => {
    if (component.marking === 'none' || component.follow !== 'unit' || component.per !== 'unit')
      return [];
    if (!hasSerials(component.marking))
      return [
        {
          key: component.product,
          component,
          label: component.positions[0]
            ? `${component.product} ${component.positions[0]}`
            : `${component.product} lot`,
          perUnit: component.quantity,
          serial: false
        }
      ];
    const count = Math.max(1, Math.round(quantity(component.quantity).toNumber()));
    return Array.from({ length: count }, (_, index) => ({
      key: `${component.product} ${index + 1}`,
      component,
      perUnit: '1',
      serial: true,
      label: component.positions[index]
        ? `${component.product} ${component.positions[index]}`
        : count > 1
          ? `${component.product} ${index + 1}`
          : component.product
    }));
  });
}

/**
 * The first open position a part of this product fits, its own before those it is an alternate for.
 */
export function openPosition(
  positions: readonly Position[],
  filled: Readonly<Record<string, string>>,
  product: string
): Position | null {
  const code = product.toUpperCase();
  const open = positions.filter((position) => !filled[position.key]?.trim());
  return (
    open.find((position) => position.component.product.toUpperCase() === code) ??
    open.find((position) =>
      position.component.alternates.some((other) => other.toUpperCase() === code)
    ) ??
    null
  );
}
