import AxeBuilder from '@axe-core/playwright';
import type { Page } from './test.ts';

/** What breaks WCAG 2.2 AA or good practice on a page as it stands; a line each. @param without rules that do not apply */
export async function axe(page: Page, without: readonly string[] = []): Promise<string[]> {
  // In the page itself and without lists of what is well: no page of ours has a frame of another
  // origin, and nobody reads what passed.
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .setLegacyMode()
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'])
    .disableRules([...without])
    .analyze();
  return violations.flatMap((violation) =>
    violation.nodes.map(
      (node) =>
        `${violation.id}: ${node.target.join(' ')} (${node.failureSummary?.split('\n')[1]?.trim() ?? ''})`
    )
  );
}
