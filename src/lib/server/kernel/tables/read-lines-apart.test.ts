import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import writeXlsx from 'write-excel-file/node';
import { refusalsOf } from '../../testing/caught.ts';
import { readLinesApart } from './read-lines-apart.ts';

// Files made to stop whoever reads them. Each is read beside other work, or refused.
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A spreadsheet of one sheet (ECMA-376: the parts a reader must have). */
const workbook = (sheet: string): Uint8Array =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/></Types>'
    ),
    'xl/workbook.xml': strToU8(
      '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>'
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>'
    ),
    'xl/worksheets/sheet1.xml': strToU8(
      `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">${sheet}</worksheet>`
    )
  });
const cell = (at: string, text: string): string =>
  `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;
const rowOf = (row: number, cells: string): string => `<row r="${row}">${cells}</row>`;
const sheetOf = (...rows: string[]): string => `<sheetData>${rows.join('')}</sheetData>`;

/** The sizes an archive says its entries have, made a lie (PKWARE APPNOTE 4.3.7 and 4.3.12). */
function sayingTen(archive: Uint8Array): Uint8Array {
  const view = new DataView(archive.buffer, archive.byteOffset, archive.byteLength);
  for (let at = 0; at + 46 <= archive.length; at++) {
    const signature = view.getUint32(at, true);
    if (signature === 0x02014b50) view.setUint32(at + 24, 10, true);
    if (signature === 0x04034b50) view.setUint32(at + 22, 10, true);
  }
  return archive;
}

test('an honest file is read as before, from CSV and from XLSX', async () => {
  const csv = await readLinesApart(bytes('\uFEFFcode;name\nA;"x;y"\n\nB;ü\n'));
  expect(csv.map((line) => [line.row, ...line.cells])).toEqual([
    [1, 'code', 'name'],
    [2, 'A', 'x;y'],
    [4, 'B', 'ü']
  ]);
  const rows = [['code', 'weight'].map((value) => ({ value })), [{ value: 'A' }, { value: 0.1 }]];
  const file = await (
    writeXlsx(rows as never) as unknown as { toBuffer: () => Promise<Buffer> }
  ).toBuffer();
  const xlsx = await readLinesApart(new Uint8Array(file));
  expect(xlsx.map((line) => line.cells)).toEqual([
    ['code', 'weight'],
    ['A', '0.1']
  ]);
  const own = workbook(sheetOf(rowOf(1, cell('A1', 'code')), rowOf(2, cell('A2', 'B'))));
  expect((await readLinesApart(own)).map((line) => line.cells)).toEqual([['code'], ['B']]);
});

/** Takes some hundred milliseconds to read. */
const HONEST = bytes('a;b;c;d;e;f;g;h;i;j;k;l;m;n;o;p\n'.repeat(19_000));
const FAR = 2_000_000_000;
const LONG = 'a'.repeat(120_000_000);
test.each<[string, () => Uint8Array, RegExp]>([
  ['a row two thousand million', () => workbook(sheetOf(rowOf(FAR, cell(`A${FAR}`, 'x')))), /^422/],
  [
    'a size of two thousand million',
    () => workbook(`<dimension ref="A1:B${FAR}"/>${sheetOf()}`),
    /^422/
  ],
  ['a column beyond all', () => workbook(sheetOf(rowOf(1, cell('XFDXFD1', 'x')))), /^422/],
  ['a cell of 120 MB', () => workbook(sheetOf(rowOf(1, cell('A1', LONG)))), /^413/],
  [
    'the same, saying it is ten bytes',
    () => sayingTen(workbook(sheetOf(rowOf(1, cell('A1', LONG))))),
    /^4(13|22)/
  ],
  ['two million rows of CSV', () => bytes('a\n'.repeat(2_400_000)), /^422/],
  ['a row of five million cells', () => bytes(','.repeat(4_900_000)), /^422/],
  ['an archive that ends too soon', () => workbook(sheetOf()).subarray(0, 300), /^422/]
])('%s is refused, and meanwhile others are served', async (_, make, refused) => {
  const file = make();
  let served = 0;
  const serving = setInterval(() => served++, 20);
  try {
    // What is refused at once would leave no time to serve anybody: an honest file goes before it.
    const before = readLinesApart(HONEST);
    expect((await refusalsOf(readLinesApart(file)))[0]).toMatch(refused);
    expect(await before).toHaveLength(19_000);
  } finally {
    clearInterval(serving);
  }
  expect(served).toBeGreaterThan(0);
});

test('files wait for each other, so many and no more', async () => {
  const all = await Promise.allSettled(
    Array.from({ length: 12 }, () => readLinesApart(bytes('code\nA\n')))
  );
  expect(all.filter((one) => one.status === 'fulfilled')).toHaveLength(9);
  expect((await readLinesApart(bytes('code\nA\n'))).length).toBe(2);
});
