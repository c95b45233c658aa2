import { formatQuantity, ONE, type Quantity } from '../quantity/quantity.ts';
import { netNeed, plannedNeed, type Bill, type BillPart } from './bill.ts';

/**
 * One line of an exploded bill. `level` 1 is what goes into the root itself; `path` are the codes
 * from the root down to the line.
 */
export interface ExplodedLine {
  level: number;
  path: readonly string[];
  part: BillPart;
  /** What goes in, and what is planned for with allowance for scrap on every level above. */
  net: string;
  planned: string;
  made: boolean;
}

export type Explosion =
  | { ok: true; lines: ExplodedLine[]; totals: Map<string, { net: Quantity; planned: Quantity }> }
  | { ok: false; loop: string[] };

/**
 * Explodes a bill through all its levels, a parent before its parts.
 * @param billOf the bill of a product by its code as bills write it; null where it has none
 * @returns the lines with the need of every product in sum, or the path of a loop
 */
export function explode(
  root: string,
  wanted: Quantity,
  billOf: (product: string) => Bill | null
): Explosion {
  const lines: ExplodedLine[] = [];
  const totals = new Map<string, { net: Quantity; planned: Quantity }>();
  const above = new Set<string>();
  let loop: string[] | null = null;
  /**
   * What one unit takes, read once for all lines alike: a long bill has few different quantities.
   */
  const known = new Map<string, { net: Quantity; planned: Quantity }>();
  const perUnit = (part: BillPart): { net: Quantity; planned: Quantity } => {
    const key = `${part.quantity} ${part.scrapPercent}`;
    let amounts = known.get(key);
    if (!amounts)
      known.set(
        key,
        (amounts = { net: netNeed(part, null, ONE), planned: plannedNeed(part, null, ONE) })
      );
    return amounts;
  };

  function down(product: string, path: readonly string[], net: Quantity, planned: Quantity): void {
    const bill = billOf(product);
    if (!bill || loop) return;
    above.add(product);
    for (const part of bill.parts) {
      if (above.has(part.product)) {
        loop = [...path.slice(path.indexOf(part.product)), part.product];
        return;
      }
      const here = [...path, part.product];
      const own =
        part.per === 'unit' ? net.times(perUnit(part).net) : netNeed(part, bill.batch, net);
      // Most lines allow for no scrap: then what is planned is what goes in.
      const more =
        planned === net && part.scrapPercent === '0'
          ? own
          : part.per === 'unit'
            ? planned.times(perUnit(part).planned)
            : plannedNeed(part, bill.batch, planned);
      const says = formatQuantity(own);
      lines.push({
        level: path.length,
        path: here,
        part,
        net: says,
        planned:
          more === own
            ? says
            : formatQuantity(more.decimalPlaces() > 6 ? more.toDecimalPlaces(6) : more),
        made: billOf(part.product) !== null
      });
      const sum = totals.get(part.product);
      totals.set(
        part.product,
        sum
          ? { net: sum.net.plus(own), planned: sum.planned.plus(more) }
          : { net: own, planned: more }
      );
      down(part.product, here, own, more);
      if (loop) return;
    }
    above.delete(product);
  }
  down(root, [root], wanted, wanted);
  return loop ? { ok: false, loop } : { ok: true, lines, totals };
}
