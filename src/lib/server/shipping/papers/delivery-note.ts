import { groupBy } from '../../../core/group-by.ts';
import { saySscc } from '../../../core/gs1/sscc.ts';
import { sayDayIn, sayInstantIn, sayNumberIn } from '../../../core/papers/say-in.ts';
import { wordsIn, type PaperWords } from '../../../core/papers/words.ts';
import { totalOf } from '../../../core/quantity/quantity.ts';
import { apart } from '../../kernel/paper/draw-apart.ts';
import { INK, Paper, PAPER_WIDTH, SOFT } from '../../kernel/paper/paper.ts';
import { fitted, mm, writeAt } from '../../kernel/paper/pdf.ts';
import { sayAddress } from '../../kernel/paper/say-address.ts';
import { weightsOf, type DeliveryNote } from '../read-delivery-note.ts';

type Rows = DeliveryNote['rows'];

/**
 * The delivery note as PDF, in the language its customer reads: cartons and pallets, every lot and
 * serial with its dates, weights, and until when the warranty runs.
 */
export async function drawDeliveryNote(note: DeliveryNote): Promise<Uint8Array> {
  const words = wordsIn(note.language);
  const paper = new Paper(words.delivery.title, note.document, note.language);
  const cartons = unlike(note.rows.map((row) => row.sscc));
  writeHead(paper, note, words, cartons);
  for (const rows of groupBy(note.rows, (row) => row.sscc ?? '').values()) {
    paper.space(60);
    if (cartons > 0) writeCarton(paper, rows[0]!, words);
    for (const group of groupBy(rows, (row) => row.product).values())
      writeProduct(paper, group, words);
    paper.y += 4;
  }
  if (note.signature) writeSignature(paper, note.signature, note.zone, words);
  return paper.end(`${note.document} · ${words.lines(note.rows.length)}`);
}

/** How many there are that are not alike; what is null is none. */
const unlike = (codes: readonly (string | null)[]): number =>
  new Set(codes.filter((one) => one !== null)).size;

function writeHead(paper: Paper, note: DeliveryNote, words: PaperWords, cartons: number): void {
  const says = words.delivery;
  const road = weightsOf(note.rows, 'road'),
    air = weightsOf(note.rows, 'air');
  const kilos = (value: string | null): string =>
    value === null ? says.notKnown : `${sayNumberIn(value, paper.language)} kg`;
  const left = sayInstantIn(note.at, note.zone, paper.language);
  paper.facts([
    [words.from, sayAddress(note.from, note.address)],
    [words.to, sayAddress(sayPartner(note), note.toAddress, note.contact)],
    [says.left, words.by(left, note.who)],
    ...(note.reference ? [[says.carrier, note.reference] as const] : []),
    ...(cartons > 0 ? [[says.packedIn, sayPacked(note.rows, cartons, words)] as const] : []),
    [says.weight, `${says.net(kilos(road.net))} · ${says.gross(kilos(road.gross))}`],
    [
      says.volumetric,
      `${says.byRoad(kilos(road.volumetric))} · ${says.byAir(kilos(air.volumetric))}`
    ],
    [words.event, String(note.event)]
  ]);
}

const sayPartner = ({ partner, partnerCode }: DeliveryNote): string =>
  `${partner} (${partnerCode})`;

function sayPacked(rows: Rows, cartons: number, { delivery }: PaperWords): string {
  const pallets = unlike(rows.map((row) => row.pallet));
  const boxes = delivery.cartons(cartons);
  return pallets > 0 ? delivery.onPallets(boxes, pallets) : boxes;
}

function writeCarton(paper: Paper, { sscc, pallet }: Rows[number], { delivery }: PaperWords): void {
  paper.rule(INK);
  const says = sscc === null ? delivery.loose : delivery.carton;
  writeAt(paper.doc, says, paper.left, paper.y, { face: 'bold', points: 10.5 });
  if (sscc !== null) {
    const on = pallet ? `  ${delivery.onPallet(saySscc(pallet))}` : '';
    const style = { face: 'mono', points: 9 } as const;
    writeAt(paper.doc, `${saySscc(sscc)}${on}`, paper.left + mm(18), paper.y + 1, style);
  }
  paper.y += 17;
}

/** One product: its sum, then what its marks have alike, said once, over each group of them. */
function writeProduct(paper: Paper, group: Rows, words: PaperWords): void {
  const { doc, left } = paper;
  const { product, name, unit } = group[0]!;
  paper.space(40);
  paper.rule();
  const width = writeAt(doc, product, left, paper.y, { face: 'mono', points: 10 });
  const bold = { face: 'bold', points: 10 } as const;
  writeAt(doc, fitted(doc, name, mm(90), bold), left + width + 8, paper.y, bold);
  const sum = totalOf(group.map((row) => row.quantity));
  paper.atRight(`${sayNumberIn(sum, paper.language)} ${unit}`, bold);
  paper.y += 16;
  const facts = (row: Rows[number]) => factsOf(row, paper, words);
  for (const [said, rows] of groupBy(group, facts)) {
    if (said) writeFacts(paper, said);
    for (const row of rows.filter((one) => one.kind !== 'serial')) writeLot(paper, row, words);
    writeSerials(
      paper,
      rows.filter((one) => one.kind === 'serial')
    );
  }
  paper.y += 4;
}

function factsOf(row: Rows[number], { language }: Paper, words: PaperWords): string {
  const { kind, lot, expires, warrantyUntil } = row;
  const parts = [
    kind === 'serial' && lot ? words.lot(lot) : '',
    expires ? words.expires(sayDayIn(expires, language)) : '',
    warrantyUntil ? words.warrantyUntil(sayDayIn(warrantyUntil, language)) : ''
  ];
  return parts.filter(Boolean).join(' · ');
}

function writeFacts(paper: Paper, said: string): void {
  paper.space(26);
  const room = paper.right - paper.left - mm(4);
  const cut = fitted(paper.doc, said, room);
  writeAt(paper.doc, cut, paper.left + mm(4), paper.y, { colour: SOFT });
  paper.y += 13;
}

function writeLot(paper: Paper, row: Rows[number], { withoutNumber }: PaperWords): void {
  paper.space(14);
  writeAt(paper.doc, row.number ?? withoutNumber, paper.left + mm(4), paper.y, {
    face: row.number ? 'mono' : 'sans'
  });
  paper.atRight(`${sayNumberIn(row.quantity, paper.language)} ${row.unit}`);
  paper.y += 13;
}

const SERIAL_COLUMNS = 4;

function writeSerials(paper: Paper, rows: Rows): void {
  const room = mm(PAPER_WIDTH / SERIAL_COLUMNS - 3);
  rows.forEach((row, index) => {
    const column = index % SERIAL_COLUMNS;
    if (column === 0) paper.space(14);
    const x = paper.left + mm(4 + (column * (PAPER_WIDTH - 4)) / SERIAL_COLUMNS);
    const number = fitted(paper.doc, row.number!, room, { face: 'mono' });
    writeAt(paper.doc, number, x, paper.y, { face: 'mono' });
    if (column === SERIAL_COLUMNS - 1 || index === rows.length - 1) paper.y += 13;
  });
}

function writeSignature(
  paper: Paper,
  { name, at, png }: NonNullable<DeliveryNote['signature']>,
  zone: string,
  { delivery }: PaperWords
): void {
  paper.space(90);
  paper.rule(INK);
  paper.doc.image(Buffer.from(png), paper.left, paper.y, { fit: [mm(60), mm(20)] });
  paper.y += mm(21);
  const said = delivery.takenOver(name, sayInstantIn(new Date(at), zone, paper.language));
  paper.cell(said, 0, 120, { points: 9.5 });
  paper.y += 16;
}

/** The same, drawn apart. */
export const deliveryNotePdf = apart('delivery-note', drawDeliveryNote);
