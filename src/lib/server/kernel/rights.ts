import { mayDo, rolesWith, type Right } from '../../core/people/rights.ts';
import type { Actor } from './actor.ts';
import { Problem } from './problem.ts';

export function requireRight(actor: Actor, right: Right): void {
  if (mayDo(actor.roles, right)) return;
  const roles = rolesWith(right).join(', ');
  throw new Problem(403, 'You may not do this', [
    {
      code: 'right.missing',
      path: '',
      message: `${actor.name} has the role ${actor.roles.join(', ') || 'none'}; this needs one of: ${roles}. Ask an administrator.`
    }
  ]);
}

/** @throws Problem 403 where the person has none of these rights */
export function requireOneRight(actor: Actor, rights: readonly Right[]): void {
  if (rights.some((right) => mayDo(actor.roles, right))) return;
  for (const right of rights) requireRight(actor, right);
}
