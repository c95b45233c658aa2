import type { CountLine } from '../../core/stock/count-line.ts';
import { countKey } from './counting.svelte.ts';

type Named = Pick<CountLine, 'product' | 'place' | 'lot' | 'serial'>;

/** The number a fault names a line by. */
const numberOf = ({ product, lot, serial }: Named): string => serial ?? lot ?? product;

/** The lines of which a refusal says that their cost must be told, by their key. */
export function costsAsked(
  lines: readonly Named[],
  errors: readonly { code: string; number?: string }[]
): ReadonlySet<string> {
  const numbers = new Set(
    errors.flatMap(({ code, number }) =>
      code === 'cost.missing' && number ? [number.toUpperCase()] : []
    )
  );
  return new Set(lines.filter((line) => numbers.has(numberOf(line).toUpperCase())).map(countKey));
}

/** What was typed of lines, as an approval takes it. */
export const costsTold = (
  lines: readonly Named[],
  typed: Readonly<Record<string, string>>
): { product: string; lot?: string; serial?: string; unitCost: string }[] =>
  lines.flatMap((line) => {
    const unitCost = typed[countKey(line)]?.trim();
    if (!unitCost) return [];
    const { product, lot, serial } = line;
    const within = lot ? { lot } : {};
    const named = serial ? { serial } : within;
    return [{ product, ...named, unitCost }];
  });
