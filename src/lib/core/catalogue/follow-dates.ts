import { daysLater } from '../calendar/day.ts';
import type { ExpiryRule } from './plan.ts';

/**
 * A mark as dates follow through it: what it was made of, and by which rule its plan makes its
 * expiry.
 */
export interface DatedMark {
  id: number;
  lotId: number | null;
  made: string | null;
  expires: string | null;
  rule: ExpiryRule;
  shelfLifeDays: number | null;
  /** The day it was first booked. */
  bornOn: string;
  /** The marks it was made of. */
  inputs: readonly number[];
}

export interface FollowedDate {
  id: number;
  from: string | null;
  to: string | null;
  why:
    'computed from the day it was made' | 'that of its lot' | 'the earliest of what it was made of';
}

/**
 * Which expiry dates were computed from a date that is amended, and what they would be now. A date
 * that somebody entered differently is left alone: only what still stands exactly as it was
 * computed follows.
 * @param marks the amended mark and everything downstream of it, with the marks those were made of
 * @param amended what is to stand on it instead
 */
export function followDates(
  marks: readonly DatedMark[],
  amended: { id: number; made?: string | null; expires?: string | null }
): FollowedDate[] {
  const byId = new Map(marks.map((mark) => [mark.id, mark]));
  const root = byId.get(amended.id);
  if (!root) return [];
  const now = new Map<number, string | null>();
  const followed = new Map<number, FollowedDate>();
  const computed = (mark: DatedMark, made: string | null): string | null =>
    mark.shelfLifeDays === null ? null : daysLater(made ?? mark.bornOn, mark.shelfLifeDays);
  const follow = (mark: DatedMark, to: string | null, why: FollowedDate['why']): boolean => {
    const before = now.has(mark.id) ? now.get(mark.id)! : mark.expires;
    if (before === to) return false;
    now.set(mark.id, to);
    followed.set(mark.id, { id: mark.id, from: mark.expires, to, why });
    return true;
  };
  if (amended.expires !== undefined) now.set(root.id, amended.expires);
  if (amended.made !== undefined) {
    const fromMade = (mark: DatedMark) =>
      mark.rule === 'computed' &&
      mark.made === root.made &&
      mark.expires === computed(mark, mark.made);
    for (const mark of marks)
      if ((mark.id === root.id && amended.expires === undefined) || mark.lotId === root.id)
        if (fromMade(mark))
          follow(mark, computed(mark, amended.made), 'computed from the day it was made');
  }
  const earliest = (mark: DatedMark, of: (id: number) => string | null): string | null =>
    mark.inputs
      .map(of)
      .filter((day) => day !== null)
      .reduce<string | null>((least, day) => (least === null || day < least ? day : least), null);
  const was = (id: number): string | null =>
    byId.get(id)?.expires ?? byId.get(byId.get(id)?.lotId ?? -1)?.expires ?? null;
  const is = (id: number): string | null =>
    now.has(id)
      ? now.get(id)!
      : (byId.get(id)?.expires ?? (byId.get(id)?.lotId == null ? null : is(byId.get(id)!.lotId!)));
  // Dates pass through every level; as many rounds as there are marks are enough, also where goods
  // loop through rework.
  for (let round = 0; round < marks.length; round++) {
    let changed = false;
    for (const mark of marks) {
      if (mark.id === root.id) continue;
      const lot = mark.lotId === null ? undefined : byId.get(mark.lotId);
      if (
        lot &&
        now.has(lot.id) &&
        mark.expires !== null &&
        mark.expires === lot.expires &&
        !(followed.get(mark.id)?.why === 'computed from the day it was made')
      )
        changed = follow(mark, is(lot.id), 'that of its lot') || changed;
      else if (
        mark.rule === 'components' &&
        mark.inputs.length > 0 &&
        mark.expires === earliest(mark, was)
      )
        changed =
          follow(mark, earliest(mark, is), 'the earliest of what it was made of') || changed;
    }
    if (!changed) break;
  }
  return [...followed.values()].filter((one) => one.from !== one.to);
}
