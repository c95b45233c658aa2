import type { Bill, BillPart, CoProduct, Follow, Per } from '../../../core/catalogue/bill.ts';
import { listed } from '../../parts/listed.ts';

/** A part as it is typed; positions and alternates with commas between. */
export interface PartLine {
  product: string;
  quantity: string;
  per: Per;
  scrapPercent: string;
  follow: Follow;
  positions: string;
  alternates: string;
  revision: string;
}

/** A bill as it is typed, to be kept as its next version. */
export interface BillForm {
  parts: PartLine[];
  coProducts: CoProduct[];
  /** How much one batch makes; empty where the whole order is one. */
  batch: string;
  addedCost: string;
  /** What is new in it. */
  note: string;
  /** The day it counts from, `YYYY-MM-DD` or as it was typed. */
  validFrom: string;
}

export const blankPart = (): PartLine => ({
  ...{ product: '', quantity: '1', per: 'unit', scrapPercent: '0', follow: 'unit' },
  ...{ positions: '', alternates: '', revision: '' }
});

export const blankCoProduct = (): CoProduct => ({ product: '', quantity: '', share: '' });

/**
 * A bill to go on from, as it is typed; one blank part where there is none yet.
 * @param today `YYYY-MM-DD`, from when the next version counts unless another day is typed
 */
export const billForm = (bill: Bill | null, today: string): BillForm => ({
  parts: bill ? bill.parts.map(typedPart) : [blankPart()],
  coProducts: (bill?.coProducts ?? []).map((co) => ({ ...co })),
  batch: bill?.batch ?? '',
  addedCost: bill?.addedCost ?? '',
  // What was new in the one before is not what is new in the next.
  note: '',
  validFrom: today
});

const typedPart = (part: BillPart): PartLine => ({
  ...part,
  positions: part.positions.join(', '),
  alternates: part.alternates.join(', '),
  revision: part.revision ?? ''
});

/**
 * What is sent of it; a part or co-product without a code is none.
 * @param seesCosts whoever does not see costs leaves them as they are
 */
export const billBody = (form: BillForm, seesCosts: boolean): object => ({
  validFrom: form.validFrom,
  batch: form.batch.trim() || null,
  ...(seesCosts ? { addedCost: form.addedCost.trim() || null } : {}),
  note: form.note,
  coProducts: form.coProducts.filter((co) => co.product.trim()),
  parts: form.parts.filter((line) => line.product.trim()).map(partOf)
});

export const partOf = (line: PartLine): BillPart => ({
  ...line,
  scrapPercent: line.scrapPercent.trim() || '0',
  positions: listed(line.positions),
  alternates: listed(line.alternates),
  revision: line.revision.trim() || null
});
