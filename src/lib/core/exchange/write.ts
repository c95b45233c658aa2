import { eventKind } from '../ledger/event-kinds.ts';
import { groupBy } from '../group-by.ts';
import { formatQuantity, quantity, total } from '../quantity/quantity.ts';
import { isWay } from '../stock/way.ts';
import {
  documentUri,
  epcOf,
  partnerUri,
  placeUri,
  ssccUri,
  type NamedMark
} from './identifiers.ts';

/**
 * An event of the ledger with all that an EPCIS event says of it. Quantities are decimal strings,
 * signed in `lines` and `packings`.
 */
export interface LedgerEvent {
  id: number;
  kind: string;
  document: string;
  /** The number its paper goes by: of a part delivery its own. */
  paper: string;
  at: string;
  bookedAt: string;
  zone: string;
  reason: string | null;
  order: string | null;
  partner: { code: string; name: string; gln: string | null } | null;
  lines: readonly { mark: number; place: string; quantity: string }[];
  transformations: readonly {
    id: number;
    inputs: readonly { mark: number; quantity: string }[];
    outputs: readonly { mark: number; quantity: string }[];
  }[];
  packings: readonly {
    unit: string;
    mark: number | null;
    child: string | null;
    quantity: string;
  }[];
  /** Parts that went into units, or came out of them. */
  fittings: readonly { host: number; mark: number; quantity: string; put: boolean }[];
  /** SSCCs that left with it, and the places they left. */
  units: readonly string[];
  unitPlaces: ReadonlyMap<string, string>;
  /** Marks whose state it changed, where nothing moved. */
  changed: readonly number[];
  /** The event it takes back, and the earlier reversals of that event. */
  reverses: LedgerEvent | null;
  earlier: readonly LedgerEvent[];
  /** Of a reversal: which transformations hold no longer, and which cartons and pallets are back. */
  tookBack: { transformations: readonly number[]; units: readonly string[] };
}

interface QuantityElement {
  epcClass: string;
  quantity: number;
  uom?: string;
}
/** An EPCIS 2.0 event as JSON; optional fields are left out, never null. */
export interface EpcisEvent {
  type: string;
  eventTime: string;
  eventTimeZoneOffset: string;
  [field: string]: unknown;
}

const CONTEXT = 'https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld';
/** Our extension fields: the number of the event in our ledger. */
const NAMESPACE = 'https://earmark.example/epcis/';

/** UN/ECE Recommendation 20 codes of the units we know; pieces are counted without one. */
const UOM: Record<string, string> = {
  kg: 'KGM',
  g: 'GRM',
  m: 'MTR',
  mm: 'MMT',
  cm: 'CMT',
  l: 'LTR',
  ml: 'MLT',
  'm²': 'MTK',
  m2: 'MTK',
  'm³': 'MTQ',
  h: 'HUR'
};

/** The offset of a zone at an instant, as `+01:00`. */
export function offsetAt(at: string, zone: string): string {
  const name = new Intl.DateTimeFormat('en-GB', { timeZone: zone, timeZoneName: 'longOffset' })
    .formatToParts(new Date(at))
    .find((part) => part.type === 'timeZoneName')!.value;
  return name === 'GMT' ? '+00:00' : name.replace('GMT', '');
}

/**
 * Writes an event of the ledger as EPCIS events: one for most kinds, one for each transformation of
 * a build, one for each carton of a packing, one for each unit that parts went into or came out of.
 * A shipment from several places is one event for each: every read point tells what left there.
 * Reversals are told by `correctionOf`. Steps on the floor have no goods to name and are left out.
 * Source: EPCIS 2.0, section 7.4.
 * @param base address our own identifiers begin with
 */
export function toEpcis(
  event: LedgerEvent,
  marks: ReadonlyMap<number, NamedMark>,
  base: string
): EpcisEvent[] {
  const known = eventKind(event.kind)?.epcis;
  if (!known) return [];
  /** Where what was made came to lie. */
  const madeAt = (outputs: readonly { mark: number }[]): string | undefined => {
    const made = new Set(outputs.map(({ mark }) => mark));
    const line = event.lines.find((one) => made.has(one.mark) && !one.quantity.startsWith('-'));
    return (line ?? event.lines[0])?.place;
  };
  const documents = [
    ...(event.order === null
      ? []
      : [
          {
            type: event.kind === 'build' ? 'prodorder' : 'po',
            bizTransaction: documentUri(event.order, base)
          }
        ]),
    ...(event.order === event.paper
      ? []
      : [
          {
            ...(event.kind === 'ship'
              ? { type: 'desadv' }
              : event.kind === 'receive'
                ? { type: 'recadv' }
                : event.kind === 'return'
                  ? { type: 'rma' }
                  : {}),
            bizTransaction: documentUri(event.paper, base)
          }
        ])
  ];
  const partner = event.partner && partnerUri(event.partner, base);
  const common = (where: string | undefined) => ({
    eventTime: event.at,
    eventTimeZoneOffset: offsetAt(event.at, event.zone),
    recordTime: event.bookedAt,
    bizStep: known.step,
    ...(known.disposition ? { disposition: known.disposition } : {}),
    ...(where === undefined
      ? {}
      : { readPoint: { id: placeUri(where, base) }, bizLocation: { id: placeUri(where, base) } }),
    ...(documents.length > 0 ? { bizTransactionList: documents } : {}),
    ...(partner && (event.kind === 'receive' || event.kind === 'return')
      ? { sourceList: [{ type: 'possessing_party', source: partner }] }
      : {}),
    ...(partner && event.kind === 'ship'
      ? { destinationList: [{ type: 'possessing_party', destination: partner }] }
      : {}),
    'earmark:event': String(event.id)
  });
  const split = (
    rows: readonly { mark: number; quantity: string }[],
    epcs: string,
    quantities: string
  ) => {
    const serials: string[] = [];
    const classes = new Map<string, { rows: string[]; unit: string }>();
    for (const { mark, quantity: amount } of rows) {
      const named = marks.get(mark);
      if (!named) continue;
      const uri = epcOf(named, base);
      if (named.kind === 'serial') serials.push(uri);
      else
        classes.set(uri, { unit: named.unit, rows: [...(classes.get(uri)?.rows ?? []), amount] });
    }
    const elements = [...classes].map(([epcClass, { rows: amounts, unit }]): QuantityElement => ({
      epcClass,
      quantity: Number(formatQuantity(total(amounts.map((amount) => quantity(amount).abs())))),
      ...(UOM[unit] ? { uom: UOM[unit] } : {})
    }));
    return {
      ...(serials.length > 0 ? { [epcs]: [...new Set(serials)] } : {}),
      ...(elements.length > 0 ? { [quantities]: elements } : {})
    };
  };
  if (event.transformations.length > 0) {
    return event.transformations.map((one) => ({
      type: 'TransformationEvent',
      ...common(madeAt(one.outputs)),
      ...split(one.inputs, 'inputEPCList', 'inputQuantityList'),
      ...split(one.outputs, 'outputEPCList', 'outputQuantityList'),
      transformationID: `${base}/transformation/${one.id}`
    }));
  }
  if (event.fittings.length > 0) {
    const hosts = [...new Set(event.fittings.map(({ host, put }) => `${host} ${put}`))];
    return hosts.map((key) => {
      const parts = event.fittings.filter(({ host, put }) => `${host} ${put}` === key);
      const [{ host, put }] = parts as [(typeof parts)[number]];
      return {
        type: 'AssociationEvent',
        ...common(event.lines[0]?.place),
        bizStep: put ? 'installing' : 'removing',
        action: put ? 'ADD' : 'DELETE',
        parentID: epcOf(marks.get(host)!, base),
        ...split(parts, 'childEPCs', 'childQuantityList')
      };
    });
  }
  if (event.kind === 'pack' || event.kind === 'unpack') {
    return [...new Set(event.packings.map((row) => row.unit))].map((unit) => {
      const inside = event.packings.filter((row) => row.unit === unit);
      const goods = split(
        inside.flatMap((row) =>
          row.mark === null ? [] : [{ mark: row.mark, quantity: row.quantity }]
        ),
        'childEPCs',
        'childQuantityList'
      ) as { childEPCs?: string[] };
      const cartons = inside.flatMap((row) => (row.child === null ? [] : [ssccUri(row.child)]));
      const children = [...(goods.childEPCs ?? []), ...cartons];
      return {
        type: 'AggregationEvent',
        ...common(undefined),
        action: event.kind === 'pack' ? 'ADD' : 'DELETE',
        parentID: ssccUri(unit),
        ...goods,
        ...(children.length > 0 ? { childEPCs: children } : {})
      };
    });
  }
  const told = partsOf(event).flatMap(({ rows, disposition }) => {
    const units = groupBy(event.units, (sscc) => event.unitPlaces.get(sscc) ?? rows[0]?.place);
    return [...groupBy(rows, (row) => row.place)].flatMap(([place, lines]) => {
      const goods: Goods = split(lines, 'epcList', 'quantityList');
      const events = objectEvent(place, goods, units.get(place) ?? []);
      return disposition ? events.map((one) => ({ ...one, disposition })) : events;
    });
  });
  if (told.length > 0) return told;
  // A state is of the whole lot, however much there is of it.
  const changed = event.changed.map((mark) => ({ mark, quantity: '1' }));
  const { epcList, quantityList }: Goods = split(changed, 'epcList', 'quantityList');
  const classes = quantityList?.map(({ epcClass }) => ({ epcClass }));
  return objectEvent(
    undefined,
    { ...(epcList ? { epcList } : {}), ...(classes ? { quantityList: classes } : {}) },
    []
  );

  function objectEvent(
    where: string | undefined,
    goods: Goods,
    ssccs: readonly string[]
  ): EpcisEvent[] {
    const epcs = [...(goods.epcList ?? []), ...ssccs.map(ssccUri)];
    if (epcs.length === 0 && !goods.quantityList) return [];
    return [
      {
        type: 'ObjectEvent',
        ...common(where),
        action: known!.action ?? 'OBSERVE',
        ...(epcs.length > 0 ? { epcList: epcs } : {}),
        ...(goods.quantityList ? { quantityList: goods.quantityList } : {})
      }
    ];
  }
}

/** Lines that are told together, and what became of them where the kind alone does not say it. */
interface Part {
  rows: LedgerEvent['lines'];
  disposition?: string;
}

/**
 * What an event tells of its lines. What moves stands twice in them, out of one place and into
 * another: it is named once, at the place it came to. A count tells what it found and what it
 * missed apart; a transfer leaves one place, or arrives at one, and its way is none.
 * Source of the dispositions: Core Business Vocabulary 2.0, section 7.2, from memory.
 */
function partsOf({ kind, lines }: LedgerEvent): Part[] {
  const isOut = (line: LedgerEvent['lines'][number]) => line.quantity.startsWith('-');
  const into = lines.filter((line) => !isOut(line));
  if (kind === 'count') {
    const found = new Set(into.map((line) => line.mark));
    const missed = lines.filter((line) => !found.has(line.mark));
    return [{ rows: into }, { rows: missed, disposition: 'unknown' }];
  }
  if (kind === 'transfer') {
    const places = lines.filter((line) => !isWay(line.place));
    const leaves = places.some(isOut);
    return [{ rows: places, disposition: leaves ? 'in_transit' : 'in_progress' }];
  }
  const out = kind === 'ship' || kind === 'scrap' || kind === 'loss';
  return [{ rows: out || into.length === 0 ? lines : into }];
}

interface Goods {
  epcList?: string[];
  quantityList?: { epcClass: string; quantity?: number; uom?: string }[];
}

/** An EPCIS 2.0 document of events. @param created RFC 3339 instant */
export const epcisDocument = (events: readonly EpcisEvent[], created: string): object => ({
  '@context': [CONTEXT, { earmark: NAMESPACE }],
  type: 'EPCISDocument',
  schemaVersion: '2.0',
  creationDate: created,
  epcisBody: { eventList: events }
});
