import { isObject } from '../is-object.ts';
import type { EpcisEvent } from './write.ts';

export const EVENT_TYPES = [
  'ObjectEvent',
  'AggregationEvent',
  'TransactionEvent',
  'TransformationEvent',
  'AssociationEvent'
] as const;
export type EventType = (typeof EVENT_TYPES)[number];
export type EpcRole = 'epc' | 'input' | 'output' | 'parent' | 'child';

/** What an event names, by role, with a quantity for classes. */
export interface NamedEpc {
  role: EpcRole;
  epc: string;
  quantity: string | null;
  uom: string | null;
}
export interface ReadEvent {
  type: EventType;
  event: EpcisEvent;
  id: string | null;
  at: string;
  bizStep: string | null;
  action: string | null;
  readPoint: string | null;
  bizLocation: string | null;
  epcs: NamedEpc[];
}
export type DocumentReading =
  | { ok: true; events: ReadEvent[]; context: Record<string, string>; sender: string }
  | { ok: false; faults: { path: string; message: string }[] };

const MOST_EVENTS = 20_000;
const OFFSET = /^[+-](?:0\d|1[0-4]):[0-5]\d$/;
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(\.\d+)?(Z|[+-]\d{2}:\d{2})$/;
/** A business step or disposition as a word, from its word or its address in the vocabulary. */
const word = (value: unknown): string | null =>
  typeof value === 'string'
    ? value
        .replace(/^(?:https:\/\/ref\.gs1\.org\/cbv\/|cbv:)(?:BizStep-|Disp-)?/, '')
        .replace(/^urn:epcglobal:cbv:(?:bizstep|disp):/, '')
    : null;

/**
 * Reads an EPCIS 2.0 JSON document, a bare event or a list of them, and says all that is wrong with
 * it: a context that is not EPCIS's, a date that is none, a field that must be there.
 * Source: EPCIS 2.0, section 7.4 and its JSON binding.
 */
export function readDocument(value: unknown): DocumentReading {
  const faults: { path: string; message: string }[] = [];
  const document = isObject(value) ? value : {};
  const list = Array.isArray(value)
    ? value
    : isObject(document.epcisBody)
      ? (document.epcisBody.eventList ??
        (isObject(document.epcisBody.queryResults) &&
        isObject(document.epcisBody.queryResults.resultsBody)
          ? document.epcisBody.queryResults.resultsBody.eventList
          : undefined))
      : document.type !== 'EPCISDocument' && EVENT_TYPES.includes(document.type as EventType)
        ? [document]
        : undefined;
  const contexts = Array.isArray(value)
    ? []
    : Array.isArray(document['@context'])
      ? document['@context']
      : document['@context'] === undefined
        ? []
        : [document['@context']];
  if (
    !Array.isArray(value) &&
    !contexts.some(
      (one) =>
        typeof one === 'string' &&
        /^https:\/\/ref\.gs1\.org\/standards\/epcis\/(2\.0\.0\/)?epcis-context\.jsonld$/.test(one)
    )
  )
    faults.push({
      path: '@context',
      message:
        'The document does not name the context of EPCIS 2.0 (https://ref.gs1.org/standards/epcis/2.0.0/epcis-context.jsonld), so its fields may mean something else. Send it as EPCIS 2.0 JSON.'
    });
  if (
    isObject(value) &&
    document.type === 'EPCISDocument' &&
    document.schemaVersion !== undefined &&
    !/^2\.\d/.test(String(document.schemaVersion))
  )
    faults.push({
      path: 'schemaVersion',
      message: `Version ${String(document.schemaVersion)} of EPCIS is not read; send version 2.0.`
    });
  if (!Array.isArray(list))
    return {
      ok: false,
      faults: [
        ...faults,
        {
          path: 'epcisBody.eventList',
          message:
            'There is no list of events. Send an EPCISDocument with epcisBody.eventList, or one event.'
        }
      ]
    };
  if (list.length > MOST_EVENTS)
    return {
      ok: false,
      faults: [
        {
          path: 'epcisBody.eventList',
          message: `The document has ${list.length} events; ${MOST_EVENTS} are the most of one. Send it in parts.`
        }
      ]
    };
  const events = list.flatMap(
    (one, index) => readEvent(one, `epcisBody.eventList[${index}]`, faults) ?? []
  );
  if (faults.length > 0) return { ok: false, faults: faults.slice(0, 200) };
  const context = Object.fromEntries(
    contexts
      .filter(isObject)
      .flatMap((one) =>
        Object.entries(one).filter(
          (entry): entry is [string, string] => typeof entry[1] === 'string'
        )
      )
  );
  return {
    ok: true,
    events,
    context,
    sender: typeof document.sender === 'string' ? document.sender.slice(0, 300) : ''
  };
}

function readEvent(
  value: unknown,
  path: string,
  faults: { path: string; message: string }[]
): ReadEvent | null {
  const before = faults.length;
  const fault = (field: string, message: string) =>
    faults.push({ path: field ? `${path}.${field}` : path, message });
  if (!isObject(value)) {
    fault('', 'This is no event.');
    return null;
  }
  const type = EVENT_TYPES.find((one) => one === value.type);
  if (!type) {
    fault(
      'type',
      `“${String(value.type).slice(0, 60)}” is no type of event. There are: ${EVENT_TYPES.join(', ')}.`
    );
    return null;
  }
  const at =
    typeof value.eventTime === 'string' && INSTANT.test(value.eventTime)
      ? Date.parse(value.eventTime)
      : NaN;
  if (Number.isNaN(at))
    fault(
      'eventTime',
      `“${String(value.eventTime).slice(0, 60)}” is no instant. Give it as 2026-11-24T10:00:00Z.`
    );
  if (typeof value.eventTimeZoneOffset !== 'string' || !OFFSET.test(value.eventTimeZoneOffset))
    fault(
      'eventTimeZoneOffset',
      'The offset of the time zone is missing or no offset such as +01:00.'
    );
  if (
    type !== 'TransformationEvent' &&
    !['ADD', 'OBSERVE', 'DELETE'].includes(String(value.action))
  )
    fault('action', 'The action must be ADD, OBSERVE or DELETE.');
  const epcs: NamedEpc[] = [];
  const single = (field: string, role: EpcRole) => {
    const given = value[field];
    if (given === undefined) return;
    if (!Array.isArray(given)) {
      fault(field, 'This must be a list of identifiers.');
      return;
    }
    given.forEach((epc, index) => {
      if (typeof epc !== 'string' || !/^[a-z][a-z0-9+.-]*:\S{1,390}$/i.test(epc))
        fault(`${field}[${index}]`, `“${String(epc).slice(0, 80)}” is no identifier (URI).`);
      else epcs.push({ role, epc, quantity: null, uom: null });
    });
  };
  const classes = (field: string, role: EpcRole) => {
    const given = value[field];
    if (given === undefined) return;
    if (!Array.isArray(given)) {
      fault(field, 'This must be a list of quantities.');
      return;
    }
    given.forEach((one, index) => {
      if (
        !isObject(one) ||
        typeof one.epcClass !== 'string' ||
        !/^[a-z][a-z0-9+.-]*:\S{1,390}$/i.test(one.epcClass)
      ) {
        fault(`${field}[${index}].epcClass`, 'The class is missing or no identifier (URI).');
        return;
      }
      if (
        one.quantity !== undefined &&
        (typeof one.quantity !== 'number' || !(one.quantity > 0) || one.quantity >= 1e12)
      ) {
        fault(`${field}[${index}].quantity`, 'The quantity must be a number above zero.');
        return;
      }
      epcs.push({
        role,
        epc: one.epcClass,
        quantity: one.quantity === undefined ? null : String(one.quantity),
        uom: typeof one.uom === 'string' ? one.uom.slice(0, 10) : null
      });
    });
  };
  single('epcList', 'epc');
  classes('quantityList', 'epc');
  single('childEPCs', 'child');
  classes('childQuantityList', 'child');
  single('inputEPCList', 'input');
  classes('inputQuantityList', 'input');
  single('outputEPCList', 'output');
  classes('outputQuantityList', 'output');
  if (value.parentID !== undefined) single0('parentID');
  if (
    type === 'AggregationEvent' &&
    value.action !== 'OBSERVE' &&
    typeof value.parentID !== 'string'
  )
    fault('parentID', 'An aggregation names its parent.');
  if (epcs.length === 0 && before === faults.length)
    fault('', 'The event names nothing: neither objects nor quantities.');
  if (before !== faults.length) return null;
  const place = (field: string): string | null =>
    isObject(value[field]) && typeof value[field].id === 'string'
      ? value[field].id.slice(0, 400)
      : null;
  return {
    type,
    event: value as unknown as EpcisEvent,
    id: typeof value.eventID === 'string' ? value.eventID.slice(0, 400) : null,
    at: new Date(at).toISOString(),
    bizStep: word(value.bizStep),
    action: typeof value.action === 'string' ? value.action : null,
    readPoint: place('readPoint'),
    bizLocation: place('bizLocation'),
    epcs: [...new Map(epcs.map((one) => [`${one.role} ${one.epc}`, one])).values()]
  };

  function single0(field: string): void {
    const given = (value as Record<string, unknown>)[field];
    if (typeof given !== 'string' || !/^[a-z][a-z0-9+.-]*:\S{1,390}$/i.test(given))
      fault(field, 'The parent is no identifier (URI).');
    else epcs.push({ role: 'parent', epc: given, quantity: null, uom: null });
  }
}
