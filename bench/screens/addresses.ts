import type { Sample } from './sample.ts';

/** What is asked of a route: addresses below the root, or why nothing is. */
export type Addresses = ((sample: Sample) => string[]) | 'not asked';

const always =
  (...paths: string[]): Addresses =>
  () =>
    paths;

/** The addresses that stand for every route that answers a GET. A test sees that none is missing. */
export const ADDRESSES: Record<string, Addresses> = {
  // Who is asked here is signed in; what signs in, or asks another firm, is not measured.
  '/sign-in': 'not asked',
  '/sign-in/elsewhere': 'not asked',
  '/sign-in/back': 'not asked',
  '/sign-in/second': 'not asked',
  '/locked': 'not asked',
  '/api/v1/session/lock': 'not asked',
  // An answer that goes on.
  '/news': 'not asked',
  // Stand-ins of devices, a picture or a letter the demo may not have.
  '/api/v1/devices/samples': 'not asked',
  '/api/v1/devices/probe': 'not asked',
  '/api/v1/devices/tag-reader': 'not asked',
  '/api/v1/products/[code]/picture': 'not asked',
  '/api/v1/recalls/[number]/notices/[id]': 'not asked',
  '/outside': 'not asked',
  '/api/v1/service-jobs/[number]/photos/[id]': 'not asked',
  '/api/v1/events/[id]/signature': 'not asked',
  '/api/v1/certificates/[number]': 'not asked',
  '/track/[tracking]': 'not asked',
  '/01/[gtin]/[...rest]': 'not asked',
  '/api/v1/drafts/[sheet]': always('/api/v1/drafts/receive:none'),
  // One token may not read a person's account.
  '/api/v1/account': 'not asked',

  '/': always('/'),
  '/account': always('/account'),
  '/api/health': always('/api/health'),
  '/metrics': always('/metrics'),
  '/proof': always('/proof'),
  '/help': always('/help'),
  '/find': ({ serialNumber }) => [
    `/find?q=${serialNumber}`,
    '/find?q=NOTHING-LIKE-IT',
    `/find?q=${serialNumber.slice(0, 3)}`
  ],
  '/find/codes': () => ['/find/codes?of=product&q=A', '/find/codes?of=customer&q='],

  '/receive': always('/receive'),
  '/receive/[number]': ({ purchase }) => [`/receive/${purchase}`],
  '/receive/[number]/known': ({ purchase }) => [`/receive/${purchase}/known`],
  '/put-away': ({ receipt }) => ['/put-away', `/put-away?event=${receipt}`],
  '/identify': always('/identify'),
  '/build': always('/build'),
  '/build/[number]': ({ work }) => [`/build/${work}`],
  '/build/floor': always('/build/floor'),
  '/build/floor/stations/[code]': ({ station }) => [`/build/floor/stations/${station}`],
  '/repack': ({ lot }) => ['/repack', `/repack?marks=${lot}`],
  '/teardown/[id]': ({ unit }) => [`/teardown/${unit}`],
  '/fit/[id]': ({ unit }) => [`/fit/${unit}`],
  '/ship': always('/ship'),
  '/ship/[number]': ({ sales }) => [`/ship/${sales}`],
  '/ship/[number]/choose': ({ sales }) => [`/ship/${sales}/choose`],
  '/ship/[number]/known': ({ picked }) => [`/ship/${picked}/known`],
  '/ship/[number]/pick': ({ picked }) => [`/ship/${picked}/pick`],
  '/ship/[number]/pack': ({ picked }) => [`/ship/${picked}/pack`],
  '/ship/backorders': always('/ship/backorders'),
  '/units/[sscc]': ({ sscc }) => [`/units/${sscc}`],
  '/returns': ({ serial }) => ['/returns', `/returns?mark=${serial}`],

  '/on-hand': ({ product, lotNumber }) => [
    '/on-hand',
    `/on-hand?q=${product}`,
    `/on-hand?q=${lotNumber}`
  ],
  '/on-hand/rows': ({ product }) => ['/on-hand/rows', `/on-hand/rows?product=${product}`],
  '/history': ({ product, place }) => [`/history?product=${product}`, `/history?place=${place}`],
  '/move': always('/move'),
  '/move/known': always('/move/known'),
  '/count': always('/count'),
  '/count/[document]': ({ count }) => [`/count/${count}`],
  '/transfer': always('/transfer'),
  '/transfer/[document]': ({ transfer }) => [`/transfer/${transfer}`],
  '/transfer/order': always('/transfer/order'),
  '/opening': always('/opening'),
  '/value': always('/value'),
  '/value/changes': always('/value/changes'),
  '/value/revalue': ({ lot }) => [`/value/revalue?mark=${lot}`],

  '/marks/[id]': ({ lot, serial, unit }) => [lot, serial, unit].map((id) => `/marks/${id}`),
  '/marks/[id]/as-built': ({ unit }) => [
    `/marks/${unit}/as-built`,
    `/marks/${unit}/as-built?as=is`
  ],
  '/events/[id]': ({ receipt, shipment }) => [`/events/${receipt}`, `/events/${shipment}`],
  '/labels': ({ receipt }) => ['/labels', `/labels?event=${receipt}`],
  '/labels/[id]': ({ labels }) => [`/labels/${labels}`],
  '/partners/[code]': ({ supplier, customer }) => [
    `/partners/${supplier}`,
    `/partners/${customer}`
  ],
  '/quality': always('/quality'),
  '/quality/products/[code]': ({ made }) => [`/quality/products/${made}`],
  '/trace': always('/trace'),
  '/trace/[id]': ({ lot, unit }) => [`/trace/${lot}`, `/trace/${unit}?direction=upstream`],
  '/trace/common': always('/trace/common'),
  '/trace/records/[kind]': always(
    '/trace/records/shipped',
    '/trace/records/changes',
    '/trace/records/overruled'
  ),
  '/loose-ends': always('/loose-ends'),
  '/recall': always('/recall'),
  '/recall/new': ({ lot }) => [`/recall/new?mark=${lot}`],
  '/recall/[number]': ({ recall }) => [`/recall/${recall}`],
  '/service': always('/service', '/service?as=list', '/service?q=S'),
  '/service/new': always('/service/new'),
  '/service/[number]': ({ job }) => [`/service/${job}`],
  '/service/claims': always('/service/claims'),
  '/service/figures': always('/service/figures'),

  '/orders/new': always('/orders/new', '/orders/new?kind=sales'),
  '/orders/import': always('/orders/import'),
  '/setup/company': always('/setup/company'),
  '/setup/files': always('/setup/files'),
  '/setup/numbering': always('/setup/numbering'),
  '/setup/partners': always('/setup/partners'),
  '/setup/hooks': always('/setup/hooks'),
  '/setup/people': always('/setup/people'),
  '/setup/people/[login]': always('/setup/people/wilf'),
  '/setup/places': always('/setup/places'),
  '/setup/places/[code]': ({ place }) => [`/setup/places/${place}`],
  '/setup/plans': always('/setup/plans'),
  '/setup/products': always('/setup/products'),
  '/setup/products/[code]': ({ made }) => [`/setup/products/${made}`],
  '/setup/products/[code]/bill': ({ made }) => [`/setup/products/${made}/bill`],
  '/setup/routes': always('/setup/routes'),
  '/setup/security': always('/setup/security'),
  '/setup/service': always('/setup/service'),

  '/api/v1/openapi.json': always('/api/v1/openapi.json'),
  '/api/v1/access-settings': always('/api/v1/access-settings'),
  '/api/v1/security-log': always('/api/v1/security-log'),
  '/api/v1/hooks': always('/api/v1/hooks'),
  '/api/v1/hooks/[id]/deliveries': 'not asked',
  '/api/v1/company': always('/api/v1/company'),
  '/api/v1/products': always('/api/v1/products'),
  '/api/v1/products/[code]': ({ made }) => [`/api/v1/products/${made}`],
  '/api/v1/products/[code]/bill': ({ made }) => [`/api/v1/products/${made}/bill`],
  '/api/v1/products/[code]/explosion': ({ made }) => [
    `/api/v1/products/${made}/explosion?quantity=10`
  ],
  '/api/v1/products/[code]/where-used': ({ product }) => [`/api/v1/products/${product}/where-used`],
  '/api/v1/products/[code]/spec': ({ specced }) => [`/api/v1/products/${specced}/spec`],
  '/api/v1/products/[code]/identity': ({ product }) => [
    `/api/v1/products/${product}/identity?to=serial`
  ],
  '/api/v1/partners/[code]': ({ supplier }) => [`/api/v1/partners/${supplier}`],
  '/api/v1/partners/[code]/wishes': ({ customer }) => [`/api/v1/partners/${customer}/wishes`],
  '/api/v1/places/[code]': ({ place }) => [`/api/v1/places/${place}`],
  '/api/v1/routes/[code]': ({ route }) => [`/api/v1/routes/${route}`],
  '/api/v1/numbering-schemes': always('/api/v1/numbering-schemes'),
  '/api/v1/marking-plans': always('/api/v1/marking-plans'),
  '/api/v1/imports/[kind]': always('/api/v1/imports/products?format=csv'),
  '/api/v1/exports/[kind]': always('/api/v1/exports/products?format=csv'),
  '/api/v1/orders/[kind]/[number]': ({ purchase, sales }) => [
    `/api/v1/orders/purchase/${purchase}`,
    `/api/v1/orders/sales/${sales}`
  ],
  '/api/v1/orders/purchase/[number]/confirmation': ({ purchase }) => [
    `/api/v1/orders/purchase/${purchase}/confirmation`
  ],
  '/api/v1/orders/work/[number]/traveler': ({ work }) => [`/api/v1/orders/work/${work}/traveler`],
  '/api/v1/orders/sales/[number]/pick-list': ({ picked }) => [
    `/api/v1/orders/sales/${picked}/pick-list`
  ],
  '/api/v1/orders/sales/[number]/proposal': ({ sales }) => [
    `/api/v1/orders/sales/${sales}/proposal`
  ],
  '/api/v1/events/[id]/delivery-note': ({ shipment }) => [
    `/api/v1/events/${shipment}/delivery-note`
  ],
  '/api/v1/events/[id]/epcis': ({ shipment }) => [`/api/v1/events/${shipment}/epcis`],
  '/api/v1/events/[id]/goods-received-note': ({ receipt }) => [
    `/api/v1/events/${receipt}/goods-received-note`
  ],
  '/api/v1/units/[sscc]': ({ sscc }) => [`/api/v1/units/${sscc}`],
  '/api/v1/units/[sscc]/label': ({ sscc }) => [`/api/v1/units/${sscc}/label`],
  '/api/v1/marks': ({ product, lotNumber, serialNumber }) => [
    '/api/v1/marks',
    `/api/v1/marks?product=${product}`,
    `/api/v1/marks?lot=${lotNumber}`,
    `/api/v1/marks?serial=${serialNumber}`,
    `/api/v1/marks?q=${serialNumber.slice(0, 4)}`,
    '/api/v1/marks?q=NOTHING-LIKE-IT'
  ],
  '/api/v1/marks/[id]/as-built': ({ unit }) => [`/api/v1/marks/${unit}/as-built`],
  '/api/v1/marks/[id]/follow-ups': ({ lot }) => [`/api/v1/marks/${lot}/follow-ups?made=2026-01-01`],
  '/api/v1/stock': ({ product, place }) => [
    '/api/v1/stock',
    `/api/v1/stock?product=${product}`,
    `/api/v1/stock?place=${place}`
  ],
  '/api/v1/on-hand': ({ product }) => [`/api/v1/on-hand?product=${product}`],
  '/api/v1/labels': always('/api/v1/labels'),
  '/api/v1/labels/[id]': ({ labels }) => [`/api/v1/labels/${labels}`],
  '/api/v1/counts': always('/api/v1/counts'),
  '/api/v1/counts/[document]': ({ count }) => [`/api/v1/counts/${count}`],
  '/api/v1/counts/[document]/sheet': ({ count }) => [`/api/v1/counts/${count}/sheet`],
  '/api/v1/transfers': always('/api/v1/transfers'),
  '/api/v1/transfers/[document]': ({ transfer }) => [`/api/v1/transfers/${transfer}`],
  '/api/v1/transfers/[document]/proposal': 'not asked',
  '/api/v1/transfers/[document]/note': ({ transfer }) => [`/api/v1/transfers/${transfer}/note`],
  '/api/v1/value': ({ product }) => [`/api/v1/value?product=${product}`],
  '/api/v1/value/changes': always('/api/v1/value/changes?from=2026-01-01&to=2026-12-31'),
  '/api/v1/trace': ({ lotProduct, lotNumber }) => [
    `/api/v1/trace?product=${lotProduct}&lot=${lotNumber}&direction=downstream`
  ],
  '/api/v1/trace-files/[id]': ({ lot }) => [`/api/v1/trace-files/${lot}?format=csv`],
  '/api/v1/epcis/events': always('/api/v1/epcis/events?perPage=30'),
  '/api/v1/records/[kind]': always('/api/v1/records/shipped'),
  '/api/v1/recalls': always('/api/v1/recalls'),
  '/api/v1/recalls/[number]': ({ recall }) => [`/api/v1/recalls/${recall}`],
  '/api/v1/recalls/[number]/file': ({ recall }) => [`/api/v1/recalls/${recall}/file?format=xlsx`],
  '/api/v1/ledger/proof': ({ receipt }) => [`/api/v1/ledger/proof?event=${receipt}`],
  '/api/v1/ledger/checkpoint': always('/api/v1/ledger/checkpoint'),
  '/api/v1/feed': always('/api/v1/feed?limit=50'),
  '/api/v1/service-jobs': always('/api/v1/service-jobs'),
  '/api/v1/service-jobs/[number]': ({ job }) => [`/api/v1/service-jobs/${job}`],
  '/api/v1/service-jobs/[number]/receipt': ({ job }) => [`/api/v1/service-jobs/${job}/receipt`],
  '/api/v1/service-units': ({ made, serialNumber }) => [
    `/api/v1/service-units?serial=${serialNumber}&product=${made}`
  ],
  '/api/v1/service-settings': always('/api/v1/service-settings'),
  '/api/v1/service-figures': always('/api/v1/service-figures'),
  '/api/v1/claims': always('/api/v1/claims'),
  '/api/v1/claims/[number]': 'not asked',
  '/api/v1/claims/[number]/letter': 'not asked'
};
