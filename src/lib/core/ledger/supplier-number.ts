import type { Faults } from '../faults/fault.ts';
import { shown } from '../numbers/number.ts';

/** Characters a supplier's number may have; the database keeps no more. */
const LONGEST = 100;

/**
 * Whether a supplier's number can be kept.
 * Faults: number.malformed.
 */
export function fitsSupplierNumber(text: string, path: string, faults: Faults): boolean {
  if (text.length <= LONGEST) return true;
  const message = `The supplier number has ${text.length} characters and ${LONGEST} are the most.`;
  faults.add('number.malformed', path, message, shown(text));
  return false;
}
