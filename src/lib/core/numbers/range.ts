import { continueNumbers } from './continue.ts';

/** Most numbers a range may hold: as many as one booking takes. */
const MOST = 20_000;

export type RangeReading = { ok: true; numbers: string[] } | { ok: false; why: string };

/**
 * Reads `TN-0100..TN-0180`, or `TN-0100 to TN-0180`, as every number from the first to the last.
 * @returns null where the text is no range at all
 */
export function readRange(text: string): RangeReading | null {
  const [first, last, ...more] = text
    .trim()
    .split(/\s*\.\.+\s*|\s+to\s+/i)
    .map((part) => part.trim());
  if (!first || !last || more.length > 0) return null;
  const [from, to] = [first, last].map((one) => /^(.*?)(\d+)(\D*)$/.exec(one));
  if (!from || !to || from[1] !== to[1] || from[3] !== to[3])
    return { ok: false, why: `${first} and ${last} do not count on from one to the other` };
  const count = BigInt(to[2]!) - BigInt(from[2]!);
  if (count < 0n) return { ok: false, why: `${last} comes before ${first}` };
  if (count >= BigInt(MOST))
    return { ok: false, why: `it would be ${count + 1n} numbers, and ${MOST} are the most` };
  return { ok: true, numbers: [first, ...continueNumbers(first, Number(count))] };
}
