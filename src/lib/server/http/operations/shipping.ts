import { PaperAsked } from '../paper-asked.ts';
import { GlassSignature } from '../../ledger/schemas.ts';
import {
  PickBack,
  PickList,
  PickScan,
  Promises,
  ProposalQuery,
  Swap
} from '../../shipping/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Sales orders, cartons and what goes with a shipment. */
export const SHIPPING_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/orders/sales/{number}/proposal',
    summary: 'What should go on an order, and every lot with why it is taken or left',
    query: ProposalQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/promises',
    summary: 'Promise marks to an order, in place of what it was promised before',
    body: Promises,
    answer: anything
  },
  {
    method: 'get',
    path: '/units/{sscc}',
    summary: 'A carton or pallet with what is in it',
    answer: anything
  },
  {
    method: 'get',
    path: '/units/{sscc}/label',
    summary: 'Labels of cartons and pallets, SSCCs with commas between, as PDF',
    answer: file('application/pdf')
  },
  {
    method: 'get',
    path: '/orders/sales/{number}/pick-list',
    summary: 'The pick list of an order in walking order; with format=pdf on paper',
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/pick-list',
    summary: 'Make the pick list anew: what it names is promised to the order',
    body: PickList,
    answer: anything
  },
  {
    method: 'post',
    path: '/orders/sales/{number}/picks',
    summary: 'Pick by scan',
    body: PickScan,
    answer: anything,
    booking: true
  },
  {
    method: 'delete',
    path: '/orders/sales/{number}/picks',
    summary: 'Put a picked row back',
    body: PickBack,
    answer: anything
  },
  {
    method: 'put',
    path: '/orders/sales/{number}/swaps',
    summary: 'Swap a lot or serial promised to an order for another that is free',
    body: Swap,
    answer: anything
  },
  {
    method: 'get',
    path: '/events/{id}/delivery-note',
    summary: 'The delivery note of a shipment, as PDF',
    query: PaperAsked,
    answer: file('application/pdf')
  },
  {
    method: 'get',
    path: '/events/{id}/signature',
    summary: 'What somebody drew on glass who took goods over, as PNG',
    answer: file('image/png')
  },
  {
    method: 'put',
    path: '/events/{id}/signature',
    summary: 'Somebody signs on glass for goods that changed hands: once, and for ever',
    body: GlassSignature,
    answer: anything
  }
];
