import { PaperAsked } from '../paper-asked.ts';
import { Announcement, Order, OrderChange } from '../../orders/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Orders of all kinds. */
export const ORDERS_OPERATIONS: readonly Operation[] = [
  {
    method: 'put',
    path: '/orders/{kind}/{number}',
    summary:
      'Enter an order (kind: purchase, work, sales), or change one with nothing booked against it',
    body: Order,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/{kind}/{number}',
    summary: 'An order with its progress',
    answer: anything
  },
  {
    method: 'patch',
    path: '/orders/{kind}/{number}',
    summary: 'Close an order, or open it again',
    body: OrderChange,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/{kind}/{number}/announced',
    summary: 'Numbers the supplier of a purchase order announces ahead, in place of those before',
    body: Announcement,
    answer: anything
  },
  {
    method: 'get',
    path: '/orders/purchase/{number}/confirmation',
    summary: 'What came of a purchase order beside what was ordered, for its supplier, as PDF',
    query: PaperAsked,
    answer: file('application/pdf')
  }
];
