import { formatQuantity, quantity, total, type Quantity } from '../quantity/quantity.ts';
import { netNeed, type Bill, type BillPart } from './bill.ts';

export const VERDICTS = [
  'as the bill says',
  'alternate',
  'missing',
  'less',
  'more',
  'extra'
] as const;
export type PartVerdict = (typeof VERDICTS)[number];

/** How what went in compares with one line of the bill, or with none. */
export interface Compared {
  product: string;
  part: BillPart | null;
  wanted: string;
  used: string;
  verdict: PartVerdict;
  /** Alternates that went in for it, with how much. */ instead: {
    product: string;
    quantity: string;
  }[];
}

const fold = (code: string): string => code.toUpperCase();

/**
 * Compares what went into a made quantity with its bill: missing, less, more, an alternate, or
 * something the bill does not know.
 * @param bill null where there is none; then everything is extra
 * @param made how much was made, in the product's unit
 * @param used what went in, by product code
 */
export function compareWithBill(
  bill: Bill | null,
  made: Quantity,
  used: ReadonlyMap<string, Quantity>
): Compared[] {
  const left = new Map([...used].map(([code, amount]) => [fold(code), { code, amount }]));
  const lines = (bill?.parts ?? []).map((part): Compared => {
    const wanted = netNeed(part, bill!.batch, made);
    const own = take(part.product);
    const instead = part.alternates.flatMap((other) => {
      const amount = take(other);
      return amount ? [{ product: other, quantity: formatQuantity(amount) }] : [];
    });
    const sum = total([...(own ? [own] : []), ...instead.map((one) => quantity(one.quantity))]);
    const verdict: PartVerdict = sum.isZero()
      ? 'missing'
      : sum.lt(wanted)
        ? 'less'
        : sum.gt(wanted)
          ? 'more'
          : instead.length > 0
            ? 'alternate'
            : 'as the bill says';
    return {
      product: part.product,
      part,
      wanted: formatQuantity(wanted),
      used: formatQuantity(sum),
      verdict,
      instead
    };
  });
  for (const { code, amount } of left.values())
    lines.push({
      product: code,
      part: null,
      wanted: '0',
      used: formatQuantity(amount),
      verdict: 'extra',
      instead: []
    });
  return lines;

  function take(code: string): Quantity | null {
    const found = left.get(fold(code));
    left.delete(fold(code));
    return found?.amount ?? null;
  }
}
