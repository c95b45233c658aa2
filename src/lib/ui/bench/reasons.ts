import type { Approval } from './approvals.ts';

/**
 * What lets a booking go on, as a booking takes it: the reasons that were written and the approvals
 * that were given; nothing where there are none.
 */
export function reasonsGiven(
  reasons: Readonly<Record<string, string>>,
  approvals: readonly Approval[] = []
): { reasons?: Record<string, string>; approvals?: string[] } {
  const given = Object.entries(reasons).filter(([, reason]) => reason.trim() !== '');
  return {
    ...(given.length > 0 ? { reasons: Object.fromEntries(given) } : {}),
    ...(approvals.length > 0 ? { approvals: approvals.map((one) => one.approval) } : {})
  };
}
