import { Problem } from '../problem.ts';

/**
 * Refuses what is more than one file takes, before it is written.
 * @param mends how to ask for less, as a sentence
 * @throws Problem 422
 */
export function fitsOneFile(rows: number, most: number, mends: string): void {
  if (rows <= most) return;
  const message = `${rows} rows are more than one file takes (${most}). ${mends}`;
  throw new Problem(422, 'Too much for one file', [
    { code: 'request.too-large', path: '', message }
  ]);
}
