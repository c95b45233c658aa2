import type { MarkState } from '../catalogue/marking.ts';

/** Why a stop of a pick list is none any more. */
export type FellAway = 'held' | 'rejected' | 'expired' | 'gone';

/** How a mark stands that is to be fetched. */
interface Standing {
  state: MarkState;
  /** `YYYY-MM-DD`. */
  expires: string | null;
  /** Whether any of it lies where it may be taken from: not in quarantine. */
  lies: boolean;
}

/** What became of a mark since it was put on the pick list; null where it can still be fetched. */
export function fellAway({ state, expires, lies }: Standing, day: string): FellAway | null {
  if (state !== 'usable') return state;
  if (expires !== null && expires < day) return 'expired';
  return lies ? null : 'gone';
}

/** As the rest of a sentence that begins with the mark's number. */
export const SAYS_FELL: Record<FellAway, string> = {
  held: 'is held by quality',
  rejected: 'was rejected',
  expired: 'has expired',
  gone: 'is not here any more'
};
