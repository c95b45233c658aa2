import type { PartnerEnd } from './traced.ts';

/** What a trace reaches only because the clocks are ignored. */
export interface BeyondTime {
  /** Ids of marks. */
  marks: readonly number[];
  /** Partners who had of it before any of that came, and nothing that time does not clear. */
  partners: readonly string[];
}

export const NOTHING_BEYOND: BeyondTime = { marks: [], partners: [] };

/**
 * What ignoring the clocks adds.
 * @param all marks and customers with the clocks ignored
 * @param inTime marks reached with them obeyed, and the customers they clear
 */
export function beyondTime(
  all: { marks: readonly number[]; customers: readonly PartnerEnd[] },
  inTime: { marks: readonly number[]; cleared: readonly PartnerEnd[] }
): BeyondTime {
  const reached = new Set(inTime.marks);
  const keyOf = ({ event, mark }: PartnerEnd) => `${event} ${mark}`;
  const cleared = new Set(inTime.cleared.map(keyOf));
  const isBeyond = (end: PartnerEnd) => !reached.has(end.mark) || cleared.has(keyOf(end));
  const touched = new Set(all.customers.flatMap((end) => (isBeyond(end) ? [] : end.partner)));
  const others = all.customers.map((end) => end.partner).filter((one) => !touched.has(one));
  return {
    marks: all.marks.filter((mark) => !reached.has(mark)),
    partners: [...new Set(others)]
  };
}
