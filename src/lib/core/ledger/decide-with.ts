import type { Reasons } from '../faults/fault.ts';
import type { Decision } from './booking.ts';
import { checkRows } from './check-rows.ts';
import { tellOrderOfTime } from './order-of-time.ts';
import type { Snapshot } from './snapshot.ts';

/**
 * A kind's own decision, and after it the checks that are the same for all: what no booking may do,
 * and the order of time.
 * @param decide the decision of the request's kind
 */
export function decideWith<Request extends object>(
  decide: (snapshot: Snapshot, request: Request) => Decision,
  snapshot: Snapshot,
  request: Request & { reasons?: Reasons }
): Decision {
  const decision = decide(snapshot, request);
  if (!decision.ok) return decision;
  const faults = checkRows(snapshot, decision.rows, request);
  if (faults.length > 0) return { ok: false, faults, notes: decision.notes };
  const time = tellOrderOfTime(snapshot, decision.rows, request);
  const notes = [...decision.notes, ...time.notes];
  if (time.list.length > 0) return { ok: false, faults: time.list, notes };
  const remarks = [...decision.rows.remarks, ...time.remarks];
  return { ok: true, rows: { ...decision.rows, remarks }, notes };
}
