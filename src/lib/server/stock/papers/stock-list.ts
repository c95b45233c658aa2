import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { company } from '../../catalogue/company.ts';
import type { Db } from '../../kernel/db/client.ts';
import { today } from '../../kernel/clock.ts';
import { INK, Paper, RUST, SOFT } from '../../kernel/paper/paper.ts';
import type { DeskAsked } from '../desk/asked.ts';
import type { Desk, DeskRow } from '../desk/read-desk.ts';

/** Where the columns begin, in millimetres from the left margin. */
const AT = { product: 46, place: 100, quantity: 122, expires: 152 };

/** What lies here on paper, as it was asked for. */
export async function drawStockList(
  own: string,
  day: string,
  asked: DeskAsked,
  { rows, count, sums }: Desk
): Promise<Uint8Array> {
  const paper = new Paper('On hand', sayDay(day));
  const narrowed = [asked.q, asked.product, asked.place, asked.site, asked.only].filter(Boolean);
  paper.facts([
    ['of', own],
    ['at the end of', sayDay(day)],
    ...(narrowed.length > 0 ? ([['only', narrowed.join(', ')]] as const) : []),
    ['rows', String(count)],
    ['in all', sums.map(({ unit, quantity }) => `${quantity} ${unit}`).join(', ') || 'nothing']
  ]);
  paper.rule(INK);
  for (const row of rows) line(paper, row, day);
  return paper.end(`On hand, ${sayDay(day)}`);
}

function line(paper: Paper, row: DeskRow, day: string): void {
  paper.space(15);
  paper.cell(row.number ?? 'no number', 0, AT.product - 2, { face: 'mono' });
  paper.cell(`${row.product} ${row.name}`, AT.product, AT.place - AT.product - 2);
  paper.cell(row.place, AT.place, AT.quantity - AT.place - 2, { face: 'mono' });
  paper.cell(`${row.quantity} ${row.unit}`, AT.quantity, AT.expires - AT.quantity - 2);
  const late = row.expires !== null && row.expires < day;
  const state = row.state === 'usable' ? '' : row.state;
  const says = [row.expires ? sayDay(row.expires) : '', state].filter(Boolean).join(', ');
  paper.cell(says, AT.expires, 26, { colour: late || state ? RUST : SOFT });
  paper.y += 13;
}

const drawn = apart('stock-list', drawStockList);

/** The same, drawn apart. */
export const stockListPdf = async (db: Db, asked: DeskAsked, desk: Desk): Promise<Uint8Array> =>
  drawn((await company(db)).name, asked.day ?? today(), asked, desk);
