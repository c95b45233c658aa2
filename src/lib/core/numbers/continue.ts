/**
 * The numbers that follow a first one, by counting its last group of digits on: `TN-0099` →
 * `TN-0100`, `TN-0101`.
 * Keeps the width and grows where it must; letters after the digits stay.
 * @param step added each time, may be negative
 * @returns `count` numbers beginning with the one after `first`; empty where it holds no digit or
 * would go below zero
 */
export function continueNumbers(first: string, count: number, step = 1): string[] {
  const match = /^(.*?)(\d+)(\D*)$/.exec(first.trim());
  if (!match) return [];
  const [, before, digits, after] = match as unknown as [string, string, string, string];
  const start = BigInt(digits);
  const numbers: string[] = [];
  for (let i = 1; i <= count; i++) {
    const next = start + BigInt(step) * BigInt(i);
    if (next < 0n) return [];
    numbers.push(`${before}${next.toString().padStart(digits.length, '0')}${after}`);
  }
  return numbers;
}
