import type { Approval } from './approvals.ts';
import { reasonsGiven } from './reasons.ts';

/** What lets a booking go on in spite of faults its plan softens, while it is being written. */
export class GoingOn {
  reasons = $state.raw<Record<string, string>>({});
  approvals = $state.raw<readonly Approval[]>([]);

  /** As a booking takes it. */
  get given(): ReturnType<typeof reasonsGiven> {
    return reasonsGiven(this.reasons, this.approvals);
  }

  /** After the booking: the next one is asked anew. */
  clear(): void {
    this.reasons = {};
    this.approvals = [];
  }
}
