import { decideShipment, shipmentWants } from '../../core/shipping/ship.ts';
import { decidePacking, packingWants } from '../../core/shipping/pack.ts';
import { decideReturn, returnWants } from '../../core/shipping/return.ts';
import type {
  Shipment as ShipmentRequest,
  Packing as PackingRequest,
  GoodsReturn as GoodsReturnRequest
} from '../../core/ledger/request.ts';
import type { BookingKind, Circumstances } from '../ledger/book.ts';
import { keepPromises } from './keep-promises.ts';
import { Shipment, Packing, GoodsReturn } from './schemas.ts';

/** Goods leave to a customer. */
export const ship: BookingKind<ShipmentRequest & Circumstances> = {
  path: 'shipments',
  summary: 'Book a shipment',
  schema: Shipment,
  rights: ['book.ship'],
  right: 'book.ship',
  eventKinds: ['ship'],
  eventKind: () => 'ship',
  wants: shipmentWants,
  decide: decideShipment,
  after: keepPromises
};

/** Goods into a carton, cartons onto a pallet, or out again. */
export const pack: BookingKind<PackingRequest & Circumstances> = {
  path: 'packings',
  summary:
    'Pack goods into a carton or cartons onto a pallet, new or under its SSCC, or take them out (kind: pack, unpack)',
  schema: Packing,
  rights: ['book.ship'],
  right: 'book.ship',
  eventKinds: ['pack', 'unpack'],
  eventKind: (request) => request.kind,
  wants: packingWants,
  decide: decidePacking
};

/** Shipped goods come back and are held until somebody decides. */
export const goodsReturn: BookingKind<GoodsReturnRequest & Circumstances> = {
  path: 'returns',
  summary: 'Take shipped goods back: each finds its sale and is held until decided',
  schema: GoodsReturn,
  rights: ['book.return'],
  right: 'book.return',
  eventKinds: ['return'],
  eventKind: () => 'return',
  wants: returnWants,
  decide: decideReturn
};
