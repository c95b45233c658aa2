import { Booked } from '../../ledger/schemas.ts';
import { BOOKING_KINDS } from '../../kinds.ts';
import { ACCOUNT_OPERATIONS } from './account.ts';
import { CATALOGUE_OPERATIONS } from './catalogue.ts';
import { EXCHANGE_OPERATIONS } from './exchange.ts';
import { HOOK_OPERATIONS } from './hooks.ts';
import { MAKING_OPERATIONS } from './making.ts';
import { type Operation } from './operation.ts';
import { ORDERS_OPERATIONS } from './orders.ts';
import { PEOPLE_OPERATIONS } from './people.ts';
import { QUALITY_OPERATIONS } from './quality.ts';
import { RECALL_OPERATIONS } from './recall.ts';
import { SERVICE_OPERATIONS } from './service.ts';
import { SHIPPING_OPERATIONS } from './shipping.ts';
import { STORE_OPERATIONS } from './store.ts';
import { TABLES_OPERATIONS } from './tables.ts';
import { TRACE_OPERATIONS } from './trace.ts';

const BOOKINGS: readonly Operation[] = BOOKING_KINDS.map(({ path, summary, schema }) => ({
  method: 'post',
  path: `/${path}`,
  summary,
  body: schema,
  answer: Booked,
  booking: true
}));

/** Every operation of the contract, with the very schemas the routes check by. */
export const OPERATIONS: readonly Operation[] = [
  ...BOOKINGS,
  ...CATALOGUE_OPERATIONS,
  ...ORDERS_OPERATIONS,
  ...TABLES_OPERATIONS,
  ...MAKING_OPERATIONS,
  ...QUALITY_OPERATIONS,
  ...SHIPPING_OPERATIONS,
  ...STORE_OPERATIONS,
  ...SERVICE_OPERATIONS,
  ...TRACE_OPERATIONS,
  ...RECALL_OPERATIONS,
  ...EXCHANGE_OPERATIONS,
  ...PEOPLE_OPERATIONS,
  ...HOOK_OPERATIONS,
  ...ACCOUNT_OPERATIONS
];
