import type { Right } from '../../core/people/rights.ts';
import { BOOKING_KINDS } from '../kinds.ts';

/** What a request needs: nothing, or a right. */
export type Need = 'nobody' | Right;

/**
 * The right every route needs, by route id and, where they differ, method. Whatever is not listed
 * is refused: a test walks the routes folder and fails where one is missing here. Those of bookings
 * come from the table of kinds.
 */
const NEEDS: Record<string, Need | Partial<Record<string, Need>>> = {
  '/sign-in': 'nobody',
  '/sign-out': 'nobody',
  '/api/health': 'nobody',
  '/api/v1/openapi.json': 'nobody',
  '/': 'read',
  '/receive': 'read',
  '/receive/[number]': 'read',
  '/build': 'read',
  '/build/[number]': 'read',
  '/ship': 'read',
  '/ship/[number]': 'read',
  '/on-hand': 'read',
  '/marks/[id]': 'read',
  '/events/[id]': 'read',
  '/trace': 'read',
  '/trace/[id]': 'read',
  '/find': 'read',
  '/orders/new': 'edit.orders',
  '/setup': 'read',
  '/setup/products': 'read',
  '/setup/products/[code]': 'read',
  '/setup/partners': 'read',
  '/setup/places': 'read',
  '/setup/numbering': 'read',
  '/setup/people': 'edit.people',
  '/api/v1/products': 'read',
  '/api/v1/products/[code]': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/partners/[code]': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/places/[code]': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/orders/[kind]/[number]': { GET: 'read', PUT: 'edit.orders', PATCH: 'edit.orders' },
  '/api/v1/numbering-schemes': 'read',
  '/api/v1/numbering-schemes/[code]': { PUT: 'edit.catalogue' },
  '/api/v1/numbers': 'allot',
  '/api/v1/company': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/orders/sales/[number]/pick-list': { GET: 'read', PUT: 'promise' },
  '/api/v1/orders/sales/[number]/picks': { POST: 'book.ship', DELETE: 'book.ship' },
  '/api/v1/orders/sales/[number]/swaps': 'promise',
  '/api/v1/approvals': 'draft',
  '/api/v1/events/[id]/delivery-note': 'read',
  '/api/v1/events/[id]/epcis': 'read',
  '/api/v1/units/[sscc]': 'read',
  '/api/v1/units/[sscc]/label': 'read',
  '/ship/[number]/pick': 'read',
  '/ship/[number]/pack': 'read',
  '/ship/backorders': 'read',
  '/units/[sscc]': 'read',
  '/returns': 'read',
  '/outside': 'read',
  '/setup/company': 'read',
  '/api/v1/products/[code]/bill': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/products/[code]/picture': {
    GET: 'read',
    PUT: 'edit.catalogue',
    DELETE: 'edit.catalogue'
  },
  '/api/v1/products/[code]/explosion': 'read',
  '/api/v1/products/[code]/where-used': 'read',
  '/api/v1/orders/work/[number]/outputs': { PUT: 'book.build', DELETE: 'book.build' },
  '/api/v1/orders/work/[number]/traveler': 'read',
  '/api/v1/orders/work/[number]/scans': 'draft',
  '/api/v1/marks/[id]/as-built': 'read',
  '/setup/products/[code]/bill': 'read',
  '/marks/[id]/as-built': 'read',
  '/repack': 'read',
  '/teardown/[id]': 'read',
  '/fit/[id]': 'read',
  '/build/floor': 'read',
  '/build/floor/stations/[code]': 'read',
  '/setup/routes': 'read',
  '/api/v1/products/[code]/spec': { GET: 'read', PUT: 'edit.spec' },
  '/api/v1/partners/[code]/wishes': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/orders/sales/[number]/proposal': 'read',
  '/api/v1/orders/sales/[number]/promises': 'promise',
  '/api/v1/tests': 'test',
  '/api/v1/tests/[id]/signature': 'test',
  '/api/v1/certificates': 'certify',
  '/api/v1/certificates/[number]': 'read',
  '/quality': 'read',
  '/quality/products/[code]': 'read',
  '/ship/[number]/choose': 'read',
  '/api/v1/routes/[code]': { GET: 'read', PUT: 'edit.catalogue' },
  '/api/v1/station-reads': 'floor',
  '/api/v1/devices/tag-reader': { GET: 'read', PUT: 'floor' },
  // Which right an import needs depends on its table: the route asks for it.
  '/api/v1/imports/[kind]': { GET: 'read', POST: 'import' },
  '/api/v1/exports/[kind]': 'read',
  '/api/v1/labels': { GET: 'read', POST: 'print' },
  '/api/v1/labels/[id]': 'read',
  '/api/v1/events/[id]/goods-received-note': 'read',
  '/labels': 'read',
  '/labels/[id]': 'read',
  '/api/v1/devices/samples': 'read',
  '/api/v1/devices/probe': { GET: 'read', PUT: 'draft' },
  '/put-away': 'read',
  '/opening': 'read',
  '/setup/files': 'read',
  '/identify': 'read',
  '/setup/plans': 'read',
  '/orders/import': 'edit.orders',
  '/api/v1/marks/[id]/follow-ups': 'read',
  '/api/v1/marking-plans': 'read',
  '/api/v1/marking-plans/[code]': { PUT: 'edit.catalogue' },
  '/api/v1/products/[code]/identity': 'read',
  '/api/v1/orders/[kind]/[number]/announced': 'edit.orders',
  '/api/v1/lying': { POST: 'book.move' },
  '/api/v1/on-hand': 'read',
  '/on-hand/rows': 'read',
  '/history': 'read',
  '/partners/[code]': 'read',
  '/api/v1/value': 'see.costs',
  '/api/v1/value/changes': 'see.costs',
  '/value': 'see.costs',
  '/value/changes': 'see.costs',
  '/value/revalue': 'book.revalue',
  '/move': 'read',
  '/count': 'read',
  '/count/[document]': 'read',
  '/api/v1/counts/[document]/sheet': 'read',
  '/transfer': 'read',
  '/transfer/[document]': 'read',
  '/api/v1/transfers': { GET: 'read', POST: 'book.move' },
  '/transfer/order': 'book.move',
  '/api/v1/transfers/[document]': { GET: 'read', PUT: 'book.move', PATCH: 'book.move' },
  '/api/v1/transfers/[document]/proposal': 'read',
  '/api/v1/transfers/[document]/note': 'read',
  '/api/v1/transfers/[document]/arrivals': { POST: 'book.move' },
  '/api/v1/counts': { GET: 'read', POST: 'count' },
  '/api/v1/counts/[document]': { GET: 'read', DELETE: 'book.correct' },
  '/api/v1/counts/[document]/entries': { PUT: 'count' },
  '/api/v1/counts/[document]/approval': { POST: 'book.correct' },
  '/api/v1/checks/[kind]': 'read',
  '/api/v1/marks': 'read',
  '/api/v1/stock': 'read',
  '/api/v1/trace': 'read',
  '/api/v1/trace-roots': 'trace',
  '/api/v1/epcis/capture': 'capture',
  '/api/v1/epcis/events': 'read',
  '/api/v1/common-sources': 'trace',
  '/trace/common': 'read',
  '/loose-ends': 'read',
  '/api/v1/trace-files/[id]': 'read',
  '/api/v1/recalls': { GET: 'read', POST: 'recall' },
  '/api/v1/recalls/[number]': 'read',
  '/api/v1/recalls/[number]/[act]': { PUT: 'recall' },
  '/api/v1/recalls/[number]/file': 'read',
  '/api/v1/recalls/[number]/notices/[id]': 'read',
  '/recall': 'read',
  '/recall/[number]': 'read',
  '/recall/new': 'recall',
  '/api/v1/drafts/[sheet]': { GET: 'read', PUT: 'draft', DELETE: 'draft' },
  '/api/v1/people/[login]': 'edit.people',
  '/api/v1/people/[login]/tokens': 'edit.people',
  '/api/v1/sign-in': 'nobody',
  ...Object.fromEntries(
    BOOKING_KINDS.map(({ path, rights }): [string, Need] => [`/api/v1/${path}`, rights[0]!])
  )
};

/**
 * The rights of which a request to a route needs at least one. Of a booking it is those any request
 * of its kind may need: who has none is refused before the body is read, and the booking itself
 * asks for the one its request does need (ledger/book.ts).
 */
export function rightsOf(routeId: string, method: string): readonly Right[] {
  const kind = BOOKING_KINDS.find(({ path }) => routeId === `/api/v1/${path}`);
  if (kind) return kind.rights;
  const need = needOf(routeId, method);
  return need === null || need === 'nobody' ? [] : [need];
}

/**
 * What a request to a route needs; null where the route is not listed or does not take the method.
 */
export function needOf(routeId: string, method: string): Need | null {
  const need = NEEDS[routeId];
  if (need === undefined) return null;
  return typeof need === 'string' ? need : (need[method === 'HEAD' ? 'GET' : method] ?? null);
}

export const listedRoutes = (): string[] => Object.keys(NEEDS);
