import { apart } from '../../kernel/paper/draw-apart.ts';
import { sayDay } from '../../../core/calendar/say-day.ts';
import { netNeed } from '../../../core/catalogue/bill.ts';
import type { Component } from '../../../core/catalogue/positions.ts';
import { labelData } from '../../../core/labels/label.ts';
import { formatQuantity, quantity } from '../../../core/quantity/quantity.ts';
import { componentsOf, readBill } from '../../catalogue/bills.ts';
import type { Db } from '../../kernel/db/client.ts';
import { readOrder, type OrderRecord } from '../../orders/read-orders.ts';
import { today } from '../../kernel/clock.ts';
import { INK, LINE, Paper, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, placePicture, writeAt } from '../../kernel/paper/pdf.ts';
import { readPictures, type Picture } from '../../catalogue/pictures.ts';
import { drawSymbol, placeSymbol } from '../../kernel/paper/symbol.ts';

interface Traveler {
  order: OrderRecord;
  components: Component[];
  batch: string | null;
  stations: { code: string; name: string }[];
  picture: Picture | null;
}

/** What a traveler says; null where there is no such work order. */
export async function readTraveler(db: Db, number: string): Promise<Traveler | null> {
  const order = await readOrder(db, 'work', number);
  if (!order) return null;
  const bill = await readBill(
    db,
    order.lines[0]!.product,
    order.bill ? { version: order.bill.version } : { day: today() }
  );
  const stations = await db<{ code: string; name: string }[]>`
    SELECT s.code, s.name
    FROM station s
      JOIN product p ON p.route_id = s.route_id
    WHERE p.code = ${order.lines[0]!.product} AND NOT s.gone
    ORDER BY s.position
  `;
  const [picture] = (await readPictures(db, [order.lines[0]!.product])).values();
  return {
    ...{ order, stations, batch: bill?.batch ?? null, picture: picture ?? null },
    components: await componentsOf(db, bill)
  };
}

const ORDER_SYMBOL = mm(24),
  UNIT_SYMBOL = mm(17);

/**
 * The paper that goes with an order over the floor: what goes in, the route, and a symbol to scan
 * for the order and each unit named ahead.
 */
export async function drawTraveler({
  order,
  components,
  batch,
  stations,
  picture
}: Traveler): Promise<Uint8Array> {
  const line = order.lines[0]!;
  const paper = new Paper('Traveler', order.number);
  const { doc, left, right } = paper;
  const top = paper.y;
  placeSymbol(
    doc,
    drawSymbol({ form: 'plain', text: order.number, under: order.number, why: null }, 'datamatrix'),
    right - ORDER_SYMBOL,
    top,
    ORDER_SYMBOL,
    ORDER_SYMBOL
  );
  if (picture) placePicture(doc, picture, right - 2 * ORDER_SYMBOL - mm(4), top, ORDER_SYMBOL);
  paper.facts([
    ['makes', `${line.quantity} ${line.unit} ${line.product} ${line.name}`],
    ['due', sayDay(order.due)],
    ...(order.place ? [['at', order.place] as const] : []),
    ['bill', order.bill ? `version ${order.bill.version}` : 'none'],
    ...(order.note ? [['note', order.note] as const] : [])
  ]);
  paper.y = Math.max(paper.y, top + ORDER_SYMBOL + 10);

  paper.rule(INK);
  heading('What goes in');
  for (const component of components) {
    paper.space(16);
    const name = writeAt(doc, component.product, left, paper.y, { face: 'mono', points: 9.5 });
    const more = [
      component.name,
      component.positions.join(', '),
      component.revision ? `revision ${component.revision}` : '',
      component.alternates.length > 0 ? `or ${component.alternates.join(', ')}` : '',
      { unit: 'named for each unit', batch: 'named for the batch', drawn: 'drawn by itself' }[
        component.follow
      ]
    ]
      .filter(Boolean)
      .join(' · ');
    writeAt(doc, fitted(doc, more, mm(112)), left + name + 8, paper.y, { colour: SOFT });
    writeAt(
      doc,
      `${component.quantity} per ${component.per} · ${formatQuantity(netNeed(component, batch, quantity(line.quantity)))} ${component.unit}`,
      left,
      paper.y,
      { width: right - left, align: 'right' }
    );
    paper.y += 14;
  }
  if (components.length === 0) {
    writeAt(doc, 'No components are set up.', left, paper.y, { colour: SOFT });
    paper.y += 14;
  }
  if (stations.length > 0) {
    paper.y += 6;
    heading('Stations');
    const width = (right - left) / stations.length;
    paper.space(44);
    stations.forEach((station, index) => {
      doc
        .rect(left + index * width, paper.y, width, 34)
        .lineWidth(0.6)
        .stroke(LINE);
      writeAt(
        doc,
        fitted(doc, `${index + 1} ${station.name}`, width - 8, { points: 8.5 }),
        left + index * width + 4,
        paper.y + 4,
        { points: 8.5 }
      );
    });
    paper.y += 42;
  }
  if (order.outputs.length > 0) {
    paper.y += 6;
    heading(
      `${order.outputs.length} ${order.outputs.length === 1 ? 'unit' : 'units'}, named ahead`
    );
    const across = 3,
      width = (right - left) / across;
    order.outputs.forEach((output, index) => {
      const column = index % across;
      if (column === 0 && index > 0) paper.y += UNIT_SYMBOL + 14;
      if (column === 0) paper.space(UNIT_SYMBOL + 14);
      const x = left + column * width;
      const serial = line.marking !== 'lot';
      const data = labelData(
        {
          id: output.id,
          kind: serial ? 'serial' : 'lot',
          number: output.number,
          lot: output.lot,
          product: line.product,
          name: line.name,
          gtin: line.gtin,
          expires: null,
          supplierNumber: null,
          facts: []
        },
        'datamatrix',
        ''
      );
      placeSymbol(doc, drawSymbol(data, 'datamatrix'), x, paper.y, UNIT_SYMBOL, UNIT_SYMBOL);
      writeAt(
        doc,
        fitted(doc, output.number, width - UNIT_SYMBOL - 14, { face: 'mono', points: 10 }),
        x + UNIT_SYMBOL + 6,
        paper.y + 6,
        { face: 'mono', points: 10 }
      );
      writeAt(doc, output.mark === null ? '' : 'made', x + UNIT_SYMBOL + 6, paper.y + 20, {
        points: 8.5,
        colour: SOFT
      });
      doc
        .rect(x + UNIT_SYMBOL + 6, paper.y + 32, 10, 10)
        .lineWidth(0.8)
        .stroke(INK);
      writeAt(doc, 'done', x + UNIT_SYMBOL + 20, paper.y + 33, { points: 8.5, colour: SOFT });
    });
    paper.y += UNIT_SYMBOL + 14;
  }
  return paper.end(`${order.number} · ${line.product}`);

  function heading(text: string): void {
    paper.space(40);
    writeAt(doc, text, left, paper.y, { face: 'bold', points: 10.5 });
    paper.y += 17;
  }
}

/** The same, drawn apart. */
export const travelerPdf = apart('traveler', drawTraveler);
