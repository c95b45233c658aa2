import { codeKey, markKey } from '../ledger/snapshot.ts';
import { shown } from '../numbers/number.ts';
import type { ReceivedMark } from '../ledger/request.ts';
import type { ReceivingSheet } from './received-row.ts';

/** Numbers given that the supplier did not announce are told beside their rows. */
export function tellAnnounced(sheet: ReceivingSheet): void {
  const announced = sheet.snapshot.order?.announced;
  if (!announced || announced.size === 0) return;
  const products = new Set([...announced].map((key) => Number(key.slice(0, key.indexOf(' ')))));
  sheet.request.lines.forEach((line, index) => {
    const product = sheet.snapshot.products.get(codeKey(line.product));
    if (!product || !products.has(product.id)) return;
    line.marks?.forEach((mark, at) => {
      const number = unannounced(product.id, mark, announced);
      if (number === null) return;
      const message = `${shown(number)} was not announced on ${sheet.snapshot.order!.number}.`;
      sheet.faults.note(`lines[${index}].marks[${at}]`, message, shown(number));
    });
  });
}

function unannounced(
  productId: number,
  mark: ReceivedMark,
  announced: ReadonlySet<string>
): string | null {
  const serial = mark.serial?.trim();
  const number = serial || mark.lot?.trim();
  if (!number) return null;
  return announced.has(markKey(productId, serial ? 'serial' : 'lot', number)) ? null : number;
}
