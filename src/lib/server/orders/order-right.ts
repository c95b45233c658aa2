import { mayDo, type Right } from '../../core/people/rights.ts';
import type { Actor } from '../kernel/actor.ts';
import { requireRight } from '../kernel/rights.ts';
import type { OrderKind } from './schemas.ts';

/** Whoever books against a kind of order enters and changes it too. */
const BOOKS: Record<OrderKind, Right> = {
  purchase: 'book.receive',
  work: 'book.build',
  sales: 'book.ship'
};

/**
 * Whether somebody may enter or change orders of this kind, or anything that stands on them.
 * @throws Problem 403
 */
export function requireOrderRight(actor: Actor, kind: OrderKind): void {
  if (!mayDo(actor.roles, 'edit.catalogue')) requireRight(actor, BOOKS[kind]);
}
