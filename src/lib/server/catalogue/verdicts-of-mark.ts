import type { MarkQuality } from '../../core/quality/mark-quality.ts';
import { verdictOf, type Limit } from '../../core/quality/spec.ts';
import { numberKey } from '../../core/numbers/number.ts';
import type { Db } from '../kernel/db/client.ts';
import { limitsFor, readSpecs } from './specs.ts';
import { countingResults, readTests } from './verdicts.ts';

/**
 * What was tested of a mark and what is thought of it, by everybody's limits.
 * @param asker the person who asks, whose own tests others sign
 */
export async function readMarkQuality(
  db: Db,
  mark: { id: number; kind: string; product: string },
  asker: number
): Promise<MarkQuality> {
  const specs = await readSpecs(db, [mark.product]);
  const tests = mark.kind === 'bulk' ? [] : await readTests(db, [mark.id], asker);
  const own = limitsFor(specs, mark.product, null);
  const customers = specs.filter((one) => one.partner !== null);
  const judge = (whose: string | null) => {
    const spec = limitsFor(specs, mark.product, whose);
    return { whose, ...verdictOf(spec, countingResults(tests, spec)) };
  };
  const verdicts = [null, ...customers.map((one) => one.partner)].map(judge);
  return {
    tests,
    asked: eachOnce([...(own?.limits ?? []), ...customers.flatMap((one) => one.spec.limits)]),
    sampling: own?.sampling ?? '',
    verdicts: verdicts.filter((one) => one.verdict !== null),
    presentVersion: specs.find((one) => one.partner === null)?.version ?? null
  };
}

/** The first limit of each name. */
function eachOnce(limits: readonly Limit[]): Limit[] {
  const first = new Map<string, Limit>();
  for (const limit of limits) {
    const key = numberKey(limit.name);
    if (!first.has(key)) first.set(key, limit);
  }
  return [...first.values()];
}
