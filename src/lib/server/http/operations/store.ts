import { Booked } from '../../ledger/schemas.ts';
import { Count, CountApproval, CountEntries, NewCount } from '../../stock/counts/schemas.ts';
import { DeskFileQuery } from '../../stock/desk/asked.ts';
import {
  LabelRequest,
  LyingQuestion,
  MarkPage,
  MarksQuery,
  StockPage,
  StockQuery,
  Value,
  ValueChanges,
  ValueChangesQuery,
  ValueQuery
} from '../../stock/schemas.ts';
import {
  Arrival,
  NewTransfer,
  TransferChange,
  TransferOrder
} from '../../stock/transfers/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** What is on hand, where, what it is worth, and what is done with it. */
export const STORE_OPERATIONS: readonly Operation[] = [
  {
    method: 'post',
    path: '/labels',
    summary: 'Print labels, as PDF or on the label printer; a reprint is recorded as one',
    body: LabelRequest,
    answer: anything
  },
  { method: 'get', path: '/labels', summary: 'What was printed lately', answer: anything },
  {
    method: 'get',
    path: '/labels/{id}',
    summary: 'The labels of a job as they were printed, as PDF',
    answer: file('application/pdf')
  },
  {
    method: 'get',
    path: '/events/{id}/goods-received-note',
    summary: 'The goods received note of a receipt, as PDF',
    answer: file('application/pdf')
  },
  {
    method: 'post',
    path: '/lying',
    summary: 'Where things of many numbers lie, or all at a place; nothing is written',
    body: LyingQuestion,
    answer: anything
  },
  {
    method: 'get',
    path: '/on-hand',
    summary:
      'Stock as a store keeper asks for it: narrowed, sorted, as it stood on a day, as a file',
    query: DeskFileQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/value',
    summary: 'What stock is worth, now or at the end of a day; unknown cost is counted, never zero',
    query: ValueQuery,
    answer: Value
  },
  {
    method: 'get',
    path: '/value/changes',
    summary: 'Gains, losses, scrap and revaluations of a period with their cost',
    query: ValueChangesQuery,
    answer: ValueChanges
  },
  {
    method: 'get',
    path: '/transfers',
    summary: 'Transfers between sites, those with goods under way first',
    answer: anything
  },
  {
    method: 'post',
    path: '/transfers',
    summary: 'Goods leave a site for another: they are under way, ours, and on hand nowhere',
    body: NewTransfer,
    answer: Booked,
    booking: true
  },
  {
    method: 'get',
    path: '/transfers/{document}',
    summary: 'What was ordered of a transfer, what is under way, and what happened on it',
    answer: anything
  },
  {
    method: 'put',
    path: '/transfers/{document}',
    summary: 'Order a transfer ahead, or change an order that nothing has left on',
    body: TransferOrder,
    answer: anything
  },
  {
    method: 'patch',
    path: '/transfers/{document}',
    summary: 'End an order whose rest will not be sent, or open it again',
    body: TransferChange,
    answer: anything
  },
  {
    method: 'get',
    path: '/transfers/{document}/proposal',
    summary: 'What to take for what is still to leave, soonest to expire first',
    answer: anything
  },
  {
    method: 'get',
    path: '/transfers/{document}/note',
    summary: 'What goes with the lorry, as PDF',
    answer: file('application/pdf')
  },
  {
    method: 'post',
    path: '/transfers/{document}/arrivals',
    summary: 'Goods of a transfer arrive, in parts if need be; the rest waits or is written off',
    body: Arrival,
    answer: Booked,
    booking: true
  },
  { method: 'get', path: '/counts', summary: 'Counts, the open ones first', answer: anything },
  {
    method: 'post',
    path: '/counts',
    summary: 'Open a count of places, products or lots',
    body: NewCount,
    answer: Count
  },
  {
    method: 'get',
    path: '/counts/{document}',
    summary: 'What a count has to count and what was found; of a blind one without what should be',
    answer: Count
  },
  {
    method: 'delete',
    path: '/counts/{document}',
    summary: 'End a count without booking anything',
    answer: Count
  },
  {
    method: 'get',
    path: '/counts/{document}/sheet',
    summary: 'A count on paper, as PDF',
    answer: file('application/pdf')
  },
  {
    method: 'put',
    path: '/counts/{document}/entries',
    summary: 'What was counted, number by number, and which places are done',
    body: CountEntries,
    answer: anything
  },
  {
    method: 'post',
    path: '/counts/{document}/approval',
    summary: 'Approve a count, by another than who counted: what was off is booked as one event',
    body: CountApproval,
    answer: Booked,
    booking: true
  },
  {
    method: 'get',
    path: '/marks',
    summary: 'Marks by product, lot, serial or text',
    query: MarksQuery,
    answer: MarkPage
  },
  {
    method: 'get',
    path: '/stock',
    summary: 'What is on hand',
    query: StockQuery,
    answer: StockPage
  }
];
