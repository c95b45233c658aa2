/**
 * One fault that somebody let pass before this booking: a second person who approved it for this
 * very document, or whoever promised or packed the goods and wrote why. It counts for that fault
 * alone: the same code and the same number.
 */
export interface Granted {
  code: string;
  /** The number the fault named; null where it named none. */
  number: string | null;
  reason: string;
  /** The approval by its id; null where it was a reason only. */
  approval: number | null;
}
