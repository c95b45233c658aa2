import type { KnownMark, KnownProduct } from '../../core/ledger/snapshot.ts';
import { limitsFor, readSpecs } from '../catalogue/specs.ts';
import { readVerdicts } from '../catalogue/verdicts.ts';
import type { Tx } from '../kernel/db/client.ts';

export interface Judged {
  /** Marks that do not conform, with why. */
  offSpec: ReadonlyMap<number, string>;
  /** Marks of which a result is missing that their spec asks for. */
  untested: ReadonlySet<number>;
}

/** How marks stand against the spec of their product, or the one this customer has of it. */
export async function readJudged(
  tx: Tx,
  marks: readonly KnownMark[],
  products: ReadonlyMap<string, KnownProduct>,
  customer: string
): Promise<Judged> {
  const offSpec = new Map<number, string>();
  const untested = new Set<number>();
  const list = [...products.values()];
  const specs = await readSpecs(
    tx,
    list.map((product) => product.code)
  );
  if (specs.length === 0) return { offSpec, untested };
  const limits = new Map(list.map(({ id, code }) => [id, limitsFor(specs, code, customer)]));
  const verdicts = await readVerdicts(
    tx,
    marks.map((mark) => ({ id: mark.id, spec: limits.get(mark.productId) ?? null }))
  );
  for (const [id, { verdict, judged }] of verdicts) {
    const wrong = judged.filter((one) => one.verdict === 'does not conform');
    if (verdict === 'untested') untested.add(id);
    if (verdict === 'does not conform') offSpec.set(id, wrong.map((one) => one.why).join('; '));
  }
  return { offSpec, untested };
}
