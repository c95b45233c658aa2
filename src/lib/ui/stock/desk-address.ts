import { addressOf } from '../parts/address-of.ts';

/** What the desk is asked for, as it stands in the address. */
export type DeskFilters = Partial<
  Record<'q' | 'product' | 'place' | 'site' | 'only' | 'sort' | 'down' | 'day', string | undefined>
>;

const DESK = '/on-hand/rows';

/** What the desk is asked for beyond what it shows by itself. */
const beyondUsual = (asked: DeskFilters): DeskFilters =>
  asked.sort === 'product' && !asked.down ? { ...asked, sort: '' } : asked;

/** The desk’s address with a change; an empty value takes a filter off. */
export const deskAddress = (asked: DeskFilters, change: DeskFilters = {}): string =>
  addressOf(DESK, beyondUsual({ ...asked, ...change }));

/** The address of what the desk shows as a file. */
export const deskFileAddress = (asked: DeskFilters, format: string): string =>
  addressOf('/api/v1/on-hand', { ...beyondUsual(asked), format });

/** What a click on a column’s heading asks for: that column, and the other way round once more. */
export function sortedBy(asked: DeskFilters, column: string): DeskFilters {
  const same = (asked.sort ?? 'product') === column;
  return { sort: column, down: same && !asked.down ? '1' : '' };
}
