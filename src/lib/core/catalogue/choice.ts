import type { Marking } from './marking.ts';

/** What a field that takes a code offers a choice of. */
export const CHOICES = ['product', 'made product', 'supplier', 'customer', 'partner'] as const;
export type ChoiceOf = (typeof CHOICES)[number];

/** One that may be chosen. */
export interface Choice {
  code: string;
  name: string;
  /** Of a product: what it is counted in, and the names of its other units. */
  unit?: string;
  units?: string[];
  marking?: Marking;
}
