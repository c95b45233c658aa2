import { strToU8, zipSync } from 'fflate';

const REL = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';

/** A spreadsheet of one sheet (ECMA-376: the parts a reader must have). */
function workbook(sheet: string): Uint8Array {
  const types = `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/></Types>`;
  const book = `<workbook xmlns="${MAIN}" xmlns:r="${REL}"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>`;
  const relations = `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${REL}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`;
  return zipSync({
    '[Content_Types].xml': strToU8(types),
    'xl/workbook.xml': strToU8(book),
    'xl/_rels/workbook.xml.rels': strToU8(relations),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet xmlns="${MAIN}">${sheet}</worksheet>`)
  });
}
const cell = (at: string, text: string): string =>
  `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;

const FAR = 2_000_000_000;
/** A row two thousand million. */
export const farRow = (): Uint8Array =>
  workbook(`<sheetData><row r="${FAR}">${cell(`A${FAR}`, 'x')}</row></sheetData>`);

/** A cell of 190 MB in a small file. */
export const hugeCell = (): Uint8Array =>
  workbook(`<sheetData><row r="1">${cell('A1', 'a'.repeat(190_000_000))}</row></sheetData>`);

/** Millions of rows of CSV. */
export const manyLines = (): Uint8Array => strToU8('a\n'.repeat(2_400_000));

/** A table of products as large as one may be. */
export const manyProducts = (): Uint8Array =>
  strToU8(
    [
      'code;name;unit;decimals;marking',
      ...Array.from({ length: 20_000 }, (_, n) => `ATT-${n};Attack ${n};each;0;serial`)
    ].join('\n')
  );
