import type { Decision } from './booking.ts';
import { checkRows } from './check-rows.ts';
import type { Snapshot } from './snapshot.ts';

/**
 * A kind's own decision, and after it the one check of what no booking may do.
 * @param decide the decision of the request's kind
 */
export function decideWith<Request extends object>(
  decide: (snapshot: Snapshot, request: Request) => Decision,
  snapshot: Snapshot,
  request: Request
): Decision {
  const decision = decide(snapshot, request);
  if (!decision.ok) return decision;
  const faults = checkRows(snapshot, decision.rows, request);
  return faults.length === 0 ? decision : { ok: false, faults, notes: decision.notes };
}
