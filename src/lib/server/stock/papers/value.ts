import { sayDay } from '../../../core/calendar/say-day.ts';
import { sayMoney } from '../../../core/quantity/say-money.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import type { Company } from '../../catalogue/company.ts';
import { INK, Paper, PAPER_WIDTH, RUST } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import type { ValuedBy, ValueGroup } from '../costs/read-value.ts';

/** Where the columns begin, in millimetres from the left margin. */
const AT = { name: 44, quantity: 96, value: 138 };

/** The value of stock on a day on paper: a line for each product, place or lot, and their sum. */
export async function valuePdf(
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
  writeAt(paper.doc, total, paper.left, paper.y, {
    ...{ face: 'bold', points: 11, width: paper.right - paper.left, align: 'right' }
  });
  return paper.end(`Value of stock, ${sayDay(day)}`);
}

function line(paper: Paper, group: ValueGroup): void {
  paper.space(16);
  const { doc, left, right } = paper;
  const narrow = (text: string, width: number, face: 'mono' | 'sans') =>
    fitted(doc, text, mm(width), { face, points: 9 });
  writeAt(doc, narrow(group.code, AT.name - 2, 'mono'), left, paper.y, {
    ...{ face: 'mono', points: 9 }
  });
  const name = narrow(group.name, AT.quantity - AT.name - 2, 'sans');
  writeAt(doc, name, left + mm(AT.name), paper.y, { points: 9 });
  const much = group.quantity === null ? '' : `${group.quantity} ${group.unit}`;
  writeAt(doc, much, left + mm(AT.quantity), paper.y, {
    ...{ points: 9, width: mm(AT.value - AT.quantity), align: 'right' }
  });
  writeAt(doc, sayMoney(group.total), left, paper.y, {
    ...{ points: 9, width: right - left, align: 'right' }
  });
  paper.y += 12;
  if (group.unknown === 0) return;
  paper.space(12);
  const says = `${group.unknown} of ${group.marks} without a known cost`;
  writeAt(doc, says, left + mm(AT.name), paper.y, {
    ...{ points: 8, colour: RUST, width: mm(PAPER_WIDTH - AT.name) }
  });
  paper.y += 12;
}
