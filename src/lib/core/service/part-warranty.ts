import type { Warranty } from './warranty.ts';

/** A part that is in a unit, or came out of it, with its maker’s warranty and its claim. */
export interface PartWarranty {
  mark: number;
  supplier: (Warranty & { name: string; partner: string; document: string }) | null;
  claim: { number: string; outcome: string | null } | null;
}
