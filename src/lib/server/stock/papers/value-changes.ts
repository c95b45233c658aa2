import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { sayMoney } from '../../../core/quantity/say-money.ts';
import { sayCostChange } from '../../../core/stock/costs/say-change.ts';
import type { Company } from '../../catalogue/company.ts';
import { INK, Paper, PAPER_WIDTH, SOFT } from '../../kernel/paper/paper.ts';
import type { ValueChange, ValueChanges } from '../costs/read-value-changes.ts';

/** What changed the value of stock in a period on paper, each with who, why and who approved. */
export async function drawValueChanges(
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
  const what = `${sayDay(row.day)}  ${row.kind}  ${row.document}`;
  paper.cell(what, 0, 80);
  const which = row.marks > 1 ? `${row.marks} of them` : (row.number ?? '');
  const goods = `${row.product} ${which}  ${row.quantity} ${row.unit}`;
  paper.cell(goods, 82, 64);
  const amount = row.amount === null ? 'not known' : sayMoney(row.amount);
  paper.atRight(amount, { face: 'bold' });
  paper.y += 12;
  paper.cell(saySmall(row), 0, PAPER_WIDTH, { points: 8, colour: SOFT });
  paper.y += 13;
}

/** Costs, reason and people, in one line. */
function saySmall(row: ValueChange): string {
  const gone =
    row.gone === null || row.gone === '0' ? [] : [`of what had left ${sayMoney(row.gone)}`];
  return [
    `cost of one ${sayCostChange(row)}`,
    ...gone,
    ...(row.reason ? [row.reason] : []),
    `booked by ${row.by}`,
    ...(row.approvedBy ? [`approved by ${row.approvedBy}`] : [])
  ].join(' · ');
}

/** The same, drawn apart. */
export const valueChangesPdf = apart('value-changes', drawValueChanges);
