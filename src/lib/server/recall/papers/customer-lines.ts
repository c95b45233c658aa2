import { sayDay } from '../../../core/calendar/say-day.ts';
import { noAmount, sayAmounts } from '../../../core/recall/amounts.ts';
import { sayAddress } from '../../kernel/paper/say-address.ts';
import type { CustomerGoods, RecallPage } from '../read-recall.ts';
import { at } from './page-parts.ts';

/** A line of a case file: goods with their number, or a small line of text. */
export interface CustomerLine {
  text: string;
  goods?: { number: string; quantity: string };
}

/** What a case file says of a customer: standing, address, letters, and every answer lot by lot. */
export function customerLines(page: RecallPage, customer: CustomerGoods): CustomerLine[] {
  const own = page.standing.customers.find((one) => one.partner === customer.partner)!;
  const to = sayAddress(customer.address, customer.contact);
  const letters = page.notices
    .filter((one) => one.partner === customer.partner)
    .map((one) => `${one.kind} of ${at(one.sentAt)}`)
    .join(' · ');
  const head = [sayStanding(own), to, letters].filter(Boolean).map((text) => ({ text }));
  const told = new Set<number>();
  const goods = customer.rows.flatMap((row) => {
    const answers = told.has(row.mark) ? [] : answersOf(page, customer.partner, row.mark);
    told.add(row.mark);
    return [goodsLine(row), ...answers];
  });
  return [...head, ...goods];
}

function sayStanding(own: RecallPage['standing']['customers'][number]): string {
  const parts = [
    ['returned', own.returned],
    ['said to be returned, not come in', own.reported],
    ['destroyed', own.destroyed],
    ['written off', own.writtenOff],
    ['open', own.open]
  ] as const;
  const became = parts.flatMap(([says, amounts]) =>
    noAmount(amounts) ? [] : [`${says} ${sayAmounts(amounts)}`]
  );
  return [`had ${sayAmounts(own.had)}`, ...became].join(' · ');
}

const goodsLine = (row: CustomerGoods['rows'][number]): CustomerLine => ({
  text: `${row.product} · ${row.document}, ${sayDay(row.day)}`,
  goods: { number: row.number ?? row.product, quantity: `${row.quantity} ${row.unit}` }
});

const answersOf = (page: RecallPage, partner: string, mark: number): CustomerLine[] =>
  page.answers
    .filter((one) => one.partner === partner && one.mark === mark)
    .map((one) => {
      const note = one.note ? `: “${one.note}”` : '';
      const says = `${one.outcome} ${one.quantity} ${one.unit}${note}`;
      return { text: `      answered ${at(one.toldAt)}: ${says} (taken by ${one.who})` };
    });
