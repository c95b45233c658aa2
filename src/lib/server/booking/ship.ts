import { decideShipment, shipmentWants } from '../../core/ledger/ship.ts';
import type { Shipment } from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from './book.ts';

/** Goods leave to a customer. */
export const ship: BookingKind<Shipment & Circumstances> = { right: 'book.ship', eventKind: () => 'ship', wants: shipmentWants, decide: decideShipment };
