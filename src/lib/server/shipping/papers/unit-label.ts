import { apart } from '../../kernel/paper/draw-apart.ts';
import bwip from 'bwip-js/node';
import { saySscc } from '../../../core/gs1/sscc.ts';
import type { UnitPage } from '../units.ts';
import { fitted, bytesOf, mm, newPdf, writeAt } from '../../kernel/paper/pdf.ts';
import { placeSymbol, readSvg } from '../../kernel/paper/symbol.ts';

const WIDTH = 100,
  HEIGHT = 150;

/**
 * What the symbol of a carton or pallet says: application identifier 00. Source: GS1 General
 * Specifications, section 3.2.
 */
export const unitSymbolText = (sscc: string): string => `^FNC100${sscc}`;

/**
 * Labels of cartons and pallets, 100 × 150 mm, a page each: who it is from and for, what is in it,
 * and its SSCC as GS1-128.
 */
export async function drawUnitLabels(
  units: readonly UnitPage[],
  from: string
): Promise<Uint8Array> {
  const doc = newPdf({
    title: 'Labels of cartons and pallets',
    size: [mm(WIDTH), mm(HEIGHT)],
    margin: 0
  });
  units.forEach((unit, index) => {
    if (index > 0) doc.addPage();
    const write = (
      text: string,
      y: number,
      points: number,
      face: 'sans' | 'bold' | 'mono' = 'sans'
    ) =>
      writeAt(doc, fitted(doc, text, mm(WIDTH - 12), { face, points }), mm(6), mm(y), {
        face,
        points,
        colour: '#000'
      });
    const line = (y: number) =>
      doc
        .moveTo(mm(6), mm(y))
        .lineTo(mm(WIDTH - 6), mm(y))
        .lineWidth(0.8)
        .stroke('#000');
    write('from', 6, 8);
    write(from, 9.5, 11, 'bold');
    line(17);
    write('to', 19, 8);
    write(unit.partnerName ?? '', 22.5, 16, 'bold');
    if (unit.order) write(`order ${unit.order}`, 30, 11, 'mono');
    line(38);
    write(
      `${unit.kind}${unit.kind === 'pallet' ? ` of ${unit.cartons.length} ${unit.cartons.length === 1 ? 'carton' : 'cartons'}` : ''}`,
      40,
      8
    );
    const rows = unit.summary.slice(0, 8);
    rows.forEach((row, at) => {
      writeAt(doc, fitted(doc, `${row.product} ${row.name}`, mm(58)), mm(6), mm(45 + at * 5.4), {
        points: 10,
        colour: '#000'
      });
      writeAt(doc, `${row.quantity} ${row.unit}`, mm(6), mm(45 + at * 5.4), {
        face: 'bold',
        points: 10,
        width: mm(WIDTH - 12),
        align: 'right',
        colour: '#000'
      });
    });
    if (unit.summary.length > rows.length)
      write(`and ${unit.summary.length - rows.length} more products`, 45 + rows.length * 5.4, 9);
    line(95);
    const svg = readSvg(
      bwip.toSVG({
        bcid: 'code128',
        parsefnc: true,
        text: unitSymbolText(unit.sscc),
        height: 32,
        scale: 2
      })
    );
    placeSymbol(doc, svg, mm(9), mm(99), mm(WIDTH - 18), mm(36));
    write(saySscc(unit.sscc), 138, 13, 'mono');
  });
  return bytesOf(doc);
}

/** The same, drawn apart. */
export const unitLabelsPdf = apart('unit-labels', drawUnitLabels);
