import type { Limit, Spec } from '../../core/quality/spec.ts';
import { count, listOf } from '../parts/say.ts';

/** What a product must be, a sentence for each characteristic, and what follows from a test. */
export function saySpec(spec: Spec | null, ofCustomer: boolean): string[] {
  if (!spec || spec.limits.length === 0)
    return [
      ofCustomer
        ? 'They have no limits of their own: the product’s count.'
        : 'No limits are set: nothing of it can conform or not.'
    ];
  const says = spec.limits.map(sayLimit);
  // A customer's limits go before the product's; what follows from a test is the product's alone.
  if (ofCustomer) return says;
  return [
    ...says,
    spec.holdOnFail
      ? 'A result outside holds the mark at once.'
      : 'A result outside is told, and holds nothing by itself.',
    ...(spec.retestDays === null
      ? []
      : [`It is tested again ${count(spec.retestDays, 'day')} after a test.`]),
    ...(spec.sampling ? [`Sample: ${spec.sampling}.`] : [])
  ];
}

/** One characteristic and what it must be. */
export function sayLimit(limit: Limit): string {
  const must = limit.required ? 'must be tested' : 'may be tested';
  return `${limit.name} ${sayWhat(limit)}; it ${must}.`;
}

function sayWhat({ kind, unit, least, most, choices, good }: Limit): string {
  if (kind === 'text') return 'is a text, and conforms whatever it says';
  if (kind === 'number') return sayBounds(unit, least, most);
  const of = kind === 'choice' ? choices : ['yes', 'no'];
  if (good.length === 0) return `is ${listOf(of, 'or')}, and conforms whichever it is`;
  return `is ${listOf(of, 'or')}, and conforms as ${listOf(good, 'or')}`;
}

function sayBounds(unit: string, least: string | null, most: string | null): string {
  if (least !== null && most !== null) return `is from ${least} to ${most} ${unit}`;
  if (least !== null) return `is at least ${least} ${unit}`;
  if (most !== null) return `is at most ${most} ${unit}`;
  return `is measured in ${unit}, and conforms whatever it is`;
}
