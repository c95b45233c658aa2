import { codeKey } from './snapshot.ts';

/**
 * The numbers of a sheet as its draft keeps them, `PRODUCT kind NUMBER` in capitals, so that two
 * people who give or take the same number see it before either books. A serial's lot is not among
 * them: many serials share one.
 */
export function draftNumbers(
  marks: readonly { product: string; lot?: string; serial?: string }[]
): string[] {
  const numbers = new Set<string>();
  for (const { product, serial } of marks)
    if (serial?.trim()) numbers.add(`${codeKey(product)} serial ${codeKey(serial)}`);
  return [...numbers];
}
