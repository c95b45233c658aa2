// Draws papers, one after the other, beside the thread that answers requests (kernel/paper/draw-apart.ts).
import { parentPort } from 'node:worker_threads';
import type { PaperAsked, PaperDrawn } from './kernel/paper/draw-apart.ts';
import { drawShownList } from './frame/papers/shown-list.ts';
import { drawTraveler } from './making/papers/traveler.ts';
import { drawCertificate } from './quality/papers/certificate.ts';
import { drawNotice } from './recall/papers/notice.ts';
import { drawCaseFile } from './recall/papers/recall-file.ts';
import { drawConfirmation } from './receiving/papers/confirmation.ts';
import { drawGoodsReceived } from './receiving/papers/goods-received.ts';
import { drawDeliveryNote } from './shipping/papers/delivery-note.ts';
import { drawPickList } from './shipping/papers/pick-list.ts';
import { drawUnitLabels } from './shipping/papers/unit-label.ts';
import { drawCountSheet } from './stock/papers/count-sheet.ts';
import { drawJudgement, drawLabels } from './stock/papers/labels.ts';
import { drawStockList } from './stock/papers/stock-list.ts';
import { drawTransferNote } from './stock/papers/transfer-note.ts';
import { drawValueChanges } from './stock/papers/value-changes.ts';
import { drawValue } from './stock/papers/value.ts';
import { drawAsBuilt } from './trace/papers/as-built.ts';

const PAPERS: Record<string, (...args: never[]) => Promise<Uint8Array>> = {
  traveler: drawTraveler,
  certificate: drawCertificate,
  notice: drawNotice,
  'case-file': drawCaseFile,
  confirmation: drawConfirmation,
  'goods-received': drawGoodsReceived,
  'delivery-note': drawDeliveryNote,
  'pick-list': drawPickList,
  'unit-labels': drawUnitLabels,
  'count-sheet': drawCountSheet,
  labels: drawLabels,
  'label-judgement': drawJudgement,
  'shown-list': drawShownList,
  'stock-list': drawStockList,
  'transfer-note': drawTransferNote,
  'value-changes': drawValueChanges,
  value: drawValue,
  'as-built': drawAsBuilt
};

async function drawn({ name, args }: PaperAsked): Promise<PaperDrawn> {
  try {
    return { bytes: await PAPERS[name]!(...(args as never[])) };
  } catch (error) {
    return { failed: (error as Error).stack ?? String(error) };
  }
}

parentPort!.on('message', async (asked: PaperAsked) => {
  const answer = await drawn(asked);
  parentPort!.postMessage(answer, 'bytes' in answer ? [answer.bytes.buffer as ArrayBuffer] : []);
});
