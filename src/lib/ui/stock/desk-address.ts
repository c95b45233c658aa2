/** What the desk is asked for, as it stands in the address. */
export type DeskFilters = Partial<
  Record<'q' | 'product' | 'place' | 'site' | 'only' | 'sort' | 'down' | 'day', string | undefined>
>;

/** The parameters that say something, in the address’s order. */
function parameters(asked: DeskFilters): URLSearchParams {
  const kept = Object.entries(asked).filter(
    ([key, value]) => value && !(key === 'sort' && value === 'product' && !asked.down)
  ) as [string, string][];
  return new URLSearchParams(kept);
}

/** The desk’s address with a change; an empty value takes a filter off. */
export function deskAddress(asked: DeskFilters, change: DeskFilters = {}): string {
  const query = parameters({ ...asked, ...change }).toString();
  return query ? `/on-hand/rows?${query}` : '/on-hand/rows';
}

/** The address of what the desk shows as a file. */
export const deskFileAddress = (asked: DeskFilters, format: string): string =>
  `/api/v1/on-hand?${new URLSearchParams([...parameters(asked), ['format', format]])}`;

/** What a click on a column’s heading asks for: that column, and the other way round once more. */
export function sortedBy(asked: DeskFilters, column: string): DeskFilters {
  const same = (asked.sort ?? 'product') === column;
  return { sort: column, down: same && !asked.down ? '1' : '' };
}
