import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { sayMoney } from '../../../core/quantity/say-money.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import type { Company } from '../../catalogue/company.ts';
import { INK, Paper, PAPER_WIDTH, RUST } from '../../kernel/paper/paper.ts';
import type { ValuedBy, ValueGroup } from '../costs/read-value.ts';

/** Where the columns begin, in millimetres from the left margin. */
const AT = { name: 44, quantity: 96, value: 138 };

/** The value of stock on a day on paper: a line for each product, place or lot, and their sum. */
export async function drawValue(
  own: Company,
  day: string,
  by: ValuedBy,
  groups: readonly ValueGroup[]
): Promise<Uint8Array> {
  const paper = new Paper('Value of stock', sayDay(day));
  const unknown = groups.reduce((sum, one) => sum + one.unknown, 0);
  const total = `${sayMoney(totalOf(groups.map((one) => one.total)))} ${own.currency ?? ''}`;
  paper.facts([
    ['of', own.name],
    ['at the end of', sayDay(day)],
    ['by', by],
    ['value', total],
    ...(unknown > 0
      ? ([['not in it', `${unknown} lots or serials whose cost is not known`]] as const)
      : [])
  ]);
  paper.rule(INK);
  for (const group of groups) line(paper, group);
  paper.rule(INK);
  paper.atRight(total, { face: 'bold', points: 11 });
  return paper.end(`Value of stock, ${sayDay(day)}`);
}

function line(paper: Paper, group: ValueGroup): void {
  paper.space(16);
  const much = group.quantity === null ? '' : `${group.quantity} ${group.unit}`;
  paper.cell(group.code, 0, AT.name - 2, { face: 'mono' });
  paper.cell(group.name, AT.name, AT.quantity - AT.name - 2);
  paper.cell(much, AT.quantity, AT.value - AT.quantity, { align: 'right' });
  paper.atRight(sayMoney(group.total));
  paper.y += 12;
  if (group.unknown === 0) return;
  paper.space(12);
  const says = `${group.unknown} of ${group.marks} without a known cost`;
  paper.cell(says, AT.name, PAPER_WIDTH - AT.name, { points: 8, colour: RUST });
  paper.y += 12;
}

/** The same, drawn apart. */
export const valuePdf = apart('value', drawValue);
