import type { MarkingPlan } from './plan.ts';

/**
 * A plan for goods whose age nobody knows, as what lay here before or was found: it asks for the
 * expiry where it could only compute one from a day that says nothing of them.
 * @param made the day they were made, where it is given
 */
export function ofUnknownAge(plan: MarkingPlan, made: string | undefined): MarkingPlan {
  const computed = plan.expires === 'computed' && !made?.trim();
  return computed || plan.expires === 'components' ? { ...plan, expires: 'entered' } : plan;
}
