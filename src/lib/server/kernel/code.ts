import { readNumber, shown } from '../../core/numbers/number.ts';
import { Problem } from './problem.ts';

/**
 * A code from a path, cleaned. Codes follow the same rules as numbers: printable, at most 60
 * characters.
 * @throws Problem 422 number.malformed
 */
export function cleanCode(text: string, of: string): string {
  const reading = readNumber(text);
  if (reading.ok) return reading.number;
  throw new Problem(422, `This ${of} code cannot be used`, [
    {
      code: 'number.malformed',
      path: 'code',
      number: shown(text),
      message: `The code ${shown(text)} cannot be used: ${reading.why}.`
    }
  ]);
}
