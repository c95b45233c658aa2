import { sayDay } from '../../../core/calendar/say-day.ts';
import { sayCost, sayMoney } from '../../../core/quantity/say-money.ts';
import type { Company } from '../../catalogue/company.ts';
import { INK, Paper, PAPER_WIDTH, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import type { ValueChange, ValueChanges } from '../costs/read-value-changes.ts';

/** What changed the value of stock in a period on paper, each with who, why and who approved. */
export async function valueChangesPdf(
  own: Company,
  { from, to }: { from: string; to: string },
  { rows, sums }: ValueChanges
): Promise<Uint8Array> {
  const paper = new Paper('What changed the value', `${from} – ${to}`);
  paper.facts([
    ['of', own.name],
    ['period', `${sayDay(from)} to ${sayDay(to)}, both included`],
    ...sums.map(({ kind, amount, unknown }): [string, string] => [
      kind,
      `${sayMoney(amount)} ${own.currency ?? ''}${unknown > 0 ? `, and ${unknown} of unknown cost` : ''}`
    ])
  ]);
  paper.rule(INK);
  for (const row of rows) line(paper, row);
  return paper.end(`What changed the value, ${sayDay(from)} to ${sayDay(to)}`);
}

function line(paper: Paper, row: ValueChange): void {
  paper.space(30);
  const { doc, left, right } = paper;
  const narrow = (text: string, width: number) => fitted(doc, text, mm(width), { points: 9 });
  const what = `${sayDay(row.day)}  ${row.kind}  ${row.document}`;
  writeAt(doc, narrow(what, 80), left, paper.y, { points: 9 });
  const which = row.marks > 1 ? `${row.marks} of them` : (row.number ?? '');
  const goods = `${row.product} ${which}  ${row.quantity} ${row.unit}`;
  writeAt(doc, narrow(goods, 64), left + mm(82), paper.y, { points: 9 });
  const amount = row.amount === null ? 'not known' : sayMoney(row.amount);
  writeAt(doc, amount, left, paper.y, {
    ...{ face: 'bold', points: 9, width: right - left, align: 'right' }
  });
  paper.y += 12;
  writeAt(doc, narrow(saySmall(row), PAPER_WIDTH), left, paper.y, { points: 8, colour: SOFT });
  paper.y += 13;
}

/** Costs, reason and people, in one line. */
function saySmall(row: ValueChange): string {
  const cost = (text: string | null) => (text === null ? 'not known' : sayCost(text));
  const one =
    row.costBefore === null
      ? cost(row.costAfter)
      : `${cost(row.costBefore)} → ${cost(row.costAfter)}`;
  const gone =
    row.gone === null || row.gone === '0' ? [] : [`of what had left ${sayMoney(row.gone)}`];
  return [
    `cost of one ${one}`,
    ...gone,
    ...(row.reason ? [row.reason] : []),
    `booked by ${row.by}`,
    ...(row.approvedBy ? [`approved by ${row.approvedBy}`] : [])
  ].join(' · ');
}
