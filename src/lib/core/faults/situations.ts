import type { FaultCode } from './fault-codes.ts';

/**
 * The answer to a fault: refuse, go on only when a second person approves with their password, go
 * on only with a written reason, or go on and show it.
 */
export const ANSWERS = ['stop', 'second person', 'reason', 'note'] as const;

export type Answer = (typeof ANSWERS)[number];

/**
 * What a plan may soften, and the fault each is told as. Stock short, a wrong product and a serial
 * already on hand are not among them: no plan can soften those.
 */
export const SITUATIONS = {
  held: { code: 'mark.held', says: 'a mark is held' },
  rejected: { code: 'mark.rejected', says: 'a mark is rejected' },
  expired: { code: 'mark.expired', says: 'a mark is expired when it is used or shipped' },
  'arrives expired': { code: 'mark.expired', says: 'goods arrive expired' },
  'off limits': { code: 'mark.off-spec', says: 'a fact lies outside its limits' },
  'fact missing': { code: 'fact.missing', says: 'a required fact is missing' },
  'date missing': { code: 'date.missing', says: 'a date is missing' },
  'out of order': { code: 'time.order', says: 'by its date a booking takes what was not here yet' },
  'life too short': { code: 'wish.unmet', says: 'a customer gets less life than they wish' },
  'not tested': { code: 'wish.unmet', says: 'a customer who wishes tested goods gets untested' },
  'lots mixed': { code: 'wish.unmet', says: 'a customer who wishes one lot gets several' },
  'dates mixed': {
    code: 'wish.unmet',
    says: 'a customer who wishes one date in a carton gets two'
  },
  'number missing': { code: 'mark.missing', says: 'a number that is asked always is missing' }
} as const satisfies Record<string, { code: FaultCode; says: string }>;

export type Situation = keyof typeof SITUATIONS;
