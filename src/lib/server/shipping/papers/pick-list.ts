import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { SAYS_FELL } from '../../../core/shipping/fell-away.ts';
import { sayNetWeight } from '../../../core/quantity/say-net-weight.ts';
import { groupBy } from '../../../core/group-by.ts';
import type { OrderRecord } from '../../orders/read-orders.ts';
import type { PickRecord } from '../../../core/shipping/pick-record.ts';
import { INK, Paper, RUST, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, placePicture, writeAt } from '../../kernel/paper/pdf.ts';
import type { Picture } from '../../catalogue/pictures.ts';
import { drawSymbol, placeSymbol } from '../../kernel/paper/symbol.ts';

/**
 * The pick list as PDF: place by place in walking order, with the lot to fetch, a box to tick and
 * the order's symbol to scan.
 */
export async function drawPickList(
  order: OrderRecord,
  all: readonly PickRecord[],
  pictures: ReadonlyMap<string, Picture> = new Map()
): Promise<Uint8Array> {
  const picks = all.filter((pick) => pick.fell === null);
  const fallen = all.filter((pick) => pick.fell !== null);
  const paper = new Paper('Pick list', order.number);
  const { doc, left, right } = paper;
  const top = paper.y;
  placeSymbol(
    doc,
    drawSymbol({ form: 'plain', text: order.number, under: order.number, why: null }, 'qr'),
    right - mm(18),
    top,
    mm(18),
    mm(18)
  );
  paper.facts([
    ['for', order.partnerName ?? ''],
    ['due', sayDay(order.due)],
    ['to fetch', `${picks.length} ${picks.length === 1 ? 'stop' : 'stops'}`],
    ['net weight', sayNetWeight(picks)]
  ]);
  paper.y = Math.max(paper.y, top + mm(21));
  for (const [place, stops] of groupBy(picks, (pick) => pick.place ?? '')) {
    paper.space(44);
    paper.rule(INK);
    writeAt(doc, place || 'wherever it lies', left, paper.y, {
      face: place ? 'mono' : 'bold',
      points: 12
    });
    writeAt(doc, stops[0]!.placeName ?? '', left, paper.y + 2, {
      colour: SOFT,
      width: right - left,
      align: 'right'
    });
    paper.y += 20;
    for (const stop of stops) {
      const picture = pictures.get(stop.product);
      paper.space(picture ? 56 : 20);
      doc
        .rect(left + mm(1), paper.y, 10, 10)
        .lineWidth(0.8)
        .stroke(INK);
      if (stop.picked === stop.quantity)
        writeAt(doc, '×', left + mm(1) + 2, paper.y - 1, { face: 'bold', points: 11 });
      writeAt(doc, whatIs(stop), left + mm(8), paper.y, {
        face: stop.number || stop.kind === 'bulk' ? 'mono' : 'sans',
        points: 10.5
      });
      writeAt(
        doc,
        fitted(doc, `${stop.product} ${stop.name}${stop.lot ? ` · lot ${stop.lot}` : ''}`, mm(62)),
        left + mm(62),
        paper.y + 1
      );
      if (stop.expires)
        writeAt(doc, `expires ${sayDay(stop.expires)}`, left + mm(126), paper.y + 1, {
          points: 8,
          colour: SOFT
        });
      writeAt(doc, `${stop.quantity} ${stop.unit}`, left, paper.y, {
        face: 'bold',
        points: 10.5,
        width: right - left,
        align: 'right',
        colour: stop.picked === stop.quantity ? SOFT : RUST
      });
      paper.y += 17;
      if (!picture) continue;
      placePicture(doc, picture, left + mm(8), paper.y - 2, 32);
      paper.y += 34;
    }
    paper.y += 4;
  }
  writeFallen(paper, fallen);
  return paper.end(`${order.number} · a lot other than named here is not to be taken`);
}

function whatIs(stop: PickRecord): string {
  if (stop.kind === 'bulk') return stop.product;
  return stop.number ?? `any serial of ${stop.product}`;
}

/** What stood on the list and is not to be fetched any more, with why. */
function writeFallen(paper: Paper, fallen: readonly PickRecord[]): void {
  if (fallen.length === 0) return;
  const { doc, left, right } = paper;
  paper.space(44);
  paper.rule(INK);
  writeAt(doc, 'not to be fetched any more', left, paper.y, { face: 'bold', points: 12 });
  paper.y += 20;
  for (const pick of fallen) {
    paper.space(20);
    writeAt(doc, whatIs(pick), left + mm(8), paper.y, { face: 'mono', points: 10.5 });
    const says = `${pick.product} ${SAYS_FELL[pick.fell!]}`;
    writeAt(doc, fitted(doc, says, right - left - mm(62)), left + mm(62), paper.y + 1);
    paper.y += 17;
  }
}

/** The same, drawn apart. */
export const pickListPdf = apart('pick-list', drawPickList);
