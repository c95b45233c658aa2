import { numberKey } from '../../core/numbers/number.ts';
import { periodOf, type Period } from '../../core/numbers/scheme.ts';
import { today } from '../kernel/clock.ts';
import type { Tx } from '../kernel/db/client.ts';
import { Problem } from '../kernel/problem.ts';

/**
 * Lets a scheme go on where another system stopped. A counter only goes up: a number is never given
 * twice.
 * @param next count of the next number, 1 or more, in the present period
 * @returns whether that moved it
 * @throws Problem 422 where it has counted further already
 */
export async function countFrom(
  tx: Tx,
  code: string,
  reset: Period,
  next: number
): Promise<boolean> {
  const period = periodOf(reset, today());
  if (next > 1 && (await moveTo(tx, code, period, next - 1))) return true;
  const now = await countedTo(tx, code, period);
  if (now === next - 1) return false;
  throw new Problem(422, 'The scheme cannot be kept like this', [
    {
      code: 'number.malformed',
      path: 'next',
      number: String(next),
      message: `${next} was given already: the scheme has counted to ${now}. Name a later one.`
    }
  ]);
}

/** Moves the counter of a period up to a count; whoever is given numbers meanwhile waits for it. */
async function moveTo(tx: Tx, code: string, period: string, last: number): Promise<boolean> {
  const moved = await tx`
    INSERT INTO numbering_counter AS c (scheme_id, period, last)
    SELECT id, ${period}, ${last} FROM numbering_scheme WHERE upper(code) = ${numberKey(code)}
    ON CONFLICT (scheme_id, period) DO UPDATE SET last = excluded.last
    WHERE c.last < excluded.last
    RETURNING last
  `;
  return moved.length > 0;
}

async function countedTo(tx: Tx, code: string, period: string): Promise<number> {
  const [counter] = await tx<{ last: number }[]>`
    SELECT c.last
    FROM numbering_counter c
      JOIN numbering_scheme s ON s.id = c.scheme_id
    WHERE upper(s.code) = ${numberKey(code)} AND c.period = ${period}
  `;
  return counter?.last ?? 0;
}
