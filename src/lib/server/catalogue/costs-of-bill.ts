import { mayDo } from '../../core/people/rights.ts';
import type { Actor } from '../kernel/actor.ts';

/** A bill as somebody may see it: without what making one adds, where they may not see costs. */
export function forEyesOf<Kept extends { addedCost?: string | null }>(
  actor: Pick<Actor, 'roles'>,
  bill: Kept
): Kept {
  if (mayDo(actor.roles, 'see.costs')) return bill;
  const { addedCost: _, ...rest } = bill;
  return rest as Kept;
}
