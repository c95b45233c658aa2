import { capital } from '../../core/capital.ts';

/**
 * The part of a fault's message that fits beside its row: the first sentence, without the number
 * that stands in the row anyway. The whole message stands in the margin.
 */
export function rowMessage(message: string): string {
  const first = message.split(/(?<=[.!?])\s/)[0]!.replace(/\.$/, '');
  const rest = first.replace(
    /^(Serial|Lot) \S+( of [A-Z0-9-]+)? (is (?=(already|held|rejected|not|short))|was (?=already))?/,
    ''
  );
  return rest === '' ? first : capital(rest);
}
