<!-- The sheet of a purchase or sales order, or of stock that is given numbers: its lines as cards, the number grid of one of them, the tally. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import { refresh } from '../frame/refresh.ts';
  import { page } from '$app/state';
  import { onMount, tick, untrack, type Snippet } from 'svelte';
  import { soonestFirst } from '../../core/stock/first-expired.ts';
  import { sayDay, sayDistance } from '../../core/calendar/say-day.ts';
  import { looksLikeSymbol, readElementString } from '../../core/gs1/element-string.ts';
  import { factField } from '../../core/catalogue/ask.ts';
  import { draftNumbers } from '../../core/ledger/draft-numbers.ts';
  import { continueNumbers } from '../../core/numbers/continue.ts';
  import { parseQuantity, quantity } from '../../core/quantity/quantity.ts';
  import { send } from '../frame/api.ts';
  import { probe } from '../frame/probe.ts';
  import { scanTarget } from '../frame/scan-target.svelte.ts';
  import Tag from '../stock/Tag.svelte';
  import { sayAmount, sayQuantity } from '../parts/say.ts';
  import { sayWishes } from '../shipping/say-wishes.ts';
  import type { CustomerWishes } from '../../core/catalogue/wishes.ts';
  import Working from '../parts/Working.svelte';
  import { allot } from './allot.ts';
  import AnnouncedList from './AnnouncedList.svelte';
  import { fillAll, givenRows, sayFilled, withFirstExpired, type OnShelf } from './as-ordered.ts';
  import BookedPanel from './BookedPanel.svelte';
  import { BookingSheet } from './booking-sheet.svelte.ts';
  import FromFirst from './FromFirst.svelte';
  import HowToRecord from './HowToRecord.svelte';
  import LineBench from './LineBench.svelte';
  import LineCards from './LineCards.svelte';
  import { nextOpenLine } from './line-cards.ts';
  import { isOneByOne, setOneByOne } from './one-by-one.ts';
  import { faultsFirst, inheritedFrom, type Row, type RowVerdict } from './grid.ts';
  import {
    announcedOpen,
    announcedRow,
    columnsFor,
    inUnit,
    isBlank,
    lacksNumber,
    proposedRow,
    keyOf,
    lineRequest,
    markedQuantity,
    mayComeLater,
    moreColumns,
    rowKind,
    splitEvenly,
    stillToMark,
    unexpectedNumbers,
    type Mode,
    type SheetLine
  } from './line-rows.ts';
  import NumberGrid from './NumberGrid.svelte';
  import OtherTab from './OtherTab.svelte';
  import ReasonPanel from './ReasonPanel.svelte';
  import type { Approval } from './approvals.ts';
  import { reasonsGiven } from './reasons.ts';
  import AndMore from '../parts/AndMore.svelte';
  import Refused from './Refused.svelte';
  import { rowMessage } from './row-message.ts';
  import type { Booked } from '../orders/booking-against.ts';
  import OrderBookings from '../orders/OrderBookings.svelte';
  import SheetMargin from './SheetMargin.svelte';
  import Tally from './Tally.svelte';
  import { tallyOf } from './tally-of.ts';
  import DockNotes from '../dock/DockNotes.svelte';
  import { DockSheet } from '../dock/dock-sheet.svelte.ts';

  export interface Available extends OnShelf {
    place: string;
  }
  interface Body {
    lines: Record<string, Row[]>;
    place: string;
    reference: string;
    units: Record<string, string>;
    arrived: Record<string, string>;
    reasons: Record<string, string>;
    approvals?: Approval[];
    costs?: Record<string, string>;
  }
  interface Props {
    /** Of a receipt, for whoever sees costs: the prices of the order, by line. */
    costs?: { currency: string | null; prices: Record<string, string> } | null;
    mode: Mode;
    order: Booked & {
      number: string;
      partner: string | null;
      partnerName: string | null;
      state: string;
      due: string | null;
      place: string | null;
      serialsLater?: boolean;
      lines: readonly SheetLine[];
    };
    places: readonly { code: string; name: string; kind: string; siteName: string }[];
    available: Record<string, readonly Available[]>;
    /** All of each product that is there; and, where goods leave, what of it may. */
    onHand: Record<string, string>;
    usable?: Record<string, string> | null;
    /** What the customer wishes of each product. */
    wishes?: Record<string, CustomerWishes>;
    draft: { body: unknown; keptAt: string | null; others: readonly string[] };
    today: string;
    mayBook: boolean;
    next: string | null;
    list?: Snippet;
  }
  let {
    mode,
    order,
    places,
    available,
    onHand,
    usable = null,
    wishes = {},
    draft,
    today,
    mayBook,
    next,
    list,
    costs = null
  }: Props = $props();

  const WORDS = {
    receive: {
      kind: 'receipts',
      verb: 'Book in',
      done: 'Booked in on',
      soFar: 'received',
      good: 'new'
    },
    ship: {
      kind: 'shipments',
      verb: 'Ship',
      done: 'Shipped on',
      soFar: 'shipped',
      good: 'on hand'
    },
    identify: {
      kind: 'identifications',
      verb: 'Number',
      done: 'Numbered on',
      soFar: 'numbered',
      good: 'new'
    }
  } as const;
  const WAYS = [
    ['hand', 'One by one'],
    ['sheet', 'Sheet']
  ] as const;
  const words = untrack(() => WORDS[mode]);
  const bearing = untrack(() => mode !== 'ship');

  const kept = untrack(() => draft.body) as (Partial<Body> & { key?: string }) | null;
  const usualPlace = untrack(
    () =>
      order.place ??
      places.find((place) => place.kind === (mode === 'receive' ? 'dock' : 'dispatch'))?.code ??
      ''
  );
  let rows = $state.raw<Record<string, Row[]>>(kept?.lines ?? {});
  let place = $state(kept?.place ?? untrack(() => (mode === 'receive' ? usualPlace : '')));
  let reference = $state(kept?.reference ?? '');
  /** The unit each line is counted in, where that is not its own. */
  let units = $state.raw<Record<string, string>>(kept?.units ?? {});
  /** How much of each line came in, where numbers may come later. */
  let arrived = $state.raw<Record<string, string>>(kept?.arrived ?? {});
  /** What one of each line cost, where that is not what its order says. */
  let unitCosts = $state.raw<Record<string, string>>(kept?.costs ?? {});
  let reasons = $state.raw<Record<string, string>>(kept?.reasons ?? {});
  let approvals = $state.raw<Approval[]>(kept?.approvals ?? []);
  let at = $state(
    untrack(() =>
      Math.max(
        0,
        order.lines.findIndex((line) => line.left !== '0')
      )
    )
  );
  let focused = $state(0);
  let grid = $state<ReturnType<typeof NumberGrid>>();
  let reasonPanel = $state<ReturnType<typeof ReasonPanel>>();
  let bench = $state<ReturnType<typeof LineBench>>();
  /** In big type, one scan after the other, and not as a sheet. */
  let oneByOne = $state(false);
  let making = $state(false);
  let moreShown = $state(false);
  let said = $state('');

  /** Goods come in and leave whether there is a line or not. */
  const dock = untrack(() => {
    if (!mayBook || mode === 'identify') return undefined;
    const href = `/${mode}/${encodeURIComponent(order.number)}`;
    return new DockSheet<Body>({
      login: page.data.actor.login,
      sheet: `${mode} ${order.number}`,
      document: order.number,
      href,
      kind: mode === 'receive' ? 'receipts' : 'shipments',
      known: `${href}/known`,
      restore
    });
  });

  /** What was typed before stands on the sheet. */
  function restore(body: Body): void {
    ({ lines: rows, place, reference, units, arrived, reasons } = body);
    approvals = body.approvals ?? [];
    unitCosts = body.costs ?? {};
  }
  /** What stands here waits on this device, and is not changed meanwhile. */
  const waits = $derived(dock !== undefined && dock.waits !== null);

  const line = $derived(order.lines[at]!);
  /** How much of it, with its unit. */
  const amount = (quantity: string): string => sayAmount(quantity, line.unit);
  const lineRows = $derived(rows[line.line] ?? []);
  const unit = $derived(units[line.line]);
  const more = $derived(moreColumns(line, mode));
  // A column with something in it is never hidden.
  const columns = $derived(
    columnsFor(
      line,
      mode,
      moreShown || more.some((column) => lineRows.some((row) => row[column.key]?.trim()))
    ).map((column) =>
      column.key === 'quantity' && unit ? { ...column, label: `Quantity, ${unit}` } : column
    )
  );
  const kind = $derived(rowKind(line, mode));
  const later = $derived(mayComeLater(line, mode));
  const probed = $derived(
    bearing
      ? line.plan.facts.find((fact) => fact.kind === 'number' && /°C/.test(fact.unit))
      : undefined
  );

  const work = untrack(
    () =>
      new BookingSheet<Body>({
        kind: words.kind,
        sheet: `${mode} ${order.number}`,
        readonly: !mayBook,
        body: () => ({
          ...{ lines: rows, place, reference, units, arrived, reasons, approvals },
          costs: unitCosts
        }),
        request: () => built?.request ?? null,
        numbers: () =>
          draftNumbers(
            order.lines.flatMap((one) =>
              (rows[one.line] ?? []).map((row) => ({ product: one.product, serial: row.serial }))
            )
          ),
        kept: { key: kept?.key, keptAt: kept ? draft.keptAt : null },
        dock
      })
  );

  /** The booking as it stands, and for each of its lines the sheet's line and rows. */
  const built = $derived.by(() => {
    const parts = order.lines.flatMap((one, index) => {
      const part = lineRequest(rows[one.line] ?? [], one, mode, { arrived: arrived[one.line] });
      return part ? [{ index, one, ...part }] : [];
    });
    if (parts.length === 0) return null;
    const shared = {
      document: order.number,
      ...(reference.trim() ? { reference: reference.trim() } : {}),
      ...reasonsGiven(reasons, approvals)
    };
    if (mode === 'identify')
      return {
        parts,
        request: {
          ...shared,
          lines: parts.map(({ one, marks }) => ({
            product: one.product,
            place: one.place!,
            ...(one.lot ? { lot: one.lot } : {}),
            marks
          }))
        }
      };
    const lines = parts.map(({ one, marks, quantity: amount }) => ({
      product: one.product,
      ...(place ? { place } : {}),
      quantity: amount,
      ...(units[one.line] ? { unit: units[one.line] } : {}),
      ...(unitCosts[one.line]?.trim() ? { unitCost: unitCosts[one.line] } : {}),
      ...(marks.length > 0 ? { marks } : {})
    }));
    return {
      parts,
      request: {
        ...shared,
        ...(mode === 'receive'
          ? { supplier: order.partner ?? '' }
          : { customer: order.partner ?? '' }),
        lines
      }
    };
  });

  /** Faults and notes by sheet line and row; what belongs to no row is told above the grid. */
  const placed = $derived.by(() => {
    const byLine = new Map<number, Map<number, RowVerdict & { full: string }>>();
    const loose: (typeof work.faults)[number][] = [];
    const set = (index: number, row: number, tone: RowVerdict['tone'], message: string) => {
      if (!byLine.has(index)) byLine.set(index, new Map());
      byLine.get(index)!.set(row, { tone, text: rowMessage(message), full: message });
    };
    const put = (path: string, tone: RowVerdict['tone'], message: string): boolean => {
      const [, lineAt, markAt] = /^lines\[(\d+)\](?:\.marks\[(\d+)\])?/.exec(path) ?? [];
      const part = lineAt === undefined ? undefined : built?.parts[Number(lineAt)];
      if (!part || (markAt === undefined && rowKind(part.one, mode) !== 'amount')) return false;
      set(part.index, part.rowOf[markAt === undefined ? 0 : Number(markAt)] ?? 0, tone, message);
      return true;
    };
    if (work.judged && built) {
      const good: RowVerdict & { full: string } = { tone: 'good', text: words.good, full: '' };
      for (const part of built.parts)
        byLine.set(part.index, new Map(part.rowOf.map((row) => [row, good])));
      const elsewhere = new Map(work.drafts.map((one) => [one.number, one.who]));
      if (elsewhere.size > 0)
        for (const part of built.parts)
          for (const row of part.rowOf) {
            const who = elsewhere.get(
              draftNumbers([
                { product: part.one.product, serial: rows[part.one.line]?.[row]?.serial }
              ])[0] ?? ''
            );
            if (who)
              set(
                part.index,
                row,
                'note',
                `It stands on ${who}’s draft too. Only what is booked first counts.`
              );
          }
    }
    for (const note of work.notes)
      if (!put(note.path, 'note', note.message)) loose.push({ ...note, code: 'note' });
    for (const fault of work.faults)
      if (!put(fault.path, fault.answer === 'reason' ? 'reason' : 'stop', fault.message))
        loose.push(fault);
    return { byLine, loose };
  });
  const verdicts = $derived(
    placed.byLine.get(at) ?? new Map<number, RowVerdict & { full: string }>()
  );
  const faults = $derived(placed.loose.filter((fault) => fault.code !== 'note'));
  const hints = $derived(placed.loose.filter((fault) => fault.code === 'note'));
  const sums = $derived(
    order.lines.map((one) => markedQuantity(rows[one.line] ?? [], one, mode, units[one.line]))
  );
  const toGoBy = $derived(
    order.lines.map((one) => stillToMark(rows[one.line] ?? [], one, mode, units[one.line]))
  );
  /** What the booking takes in of each: more than is marked where numbers come later. */
  const bookingBy = $derived(
    order.lines.map((one, index) =>
      mayComeLater(one, mode) && parseQuantity(arrived[one.line] ?? '')?.gt(sums[index]!)
        ? arrived[one.line]!
        : sums[index]!
    )
  );
  const sum = $derived(
    tallyOf(
      order.lines.map((one) => one.unit),
      {
        left: order.lines.map((one) => one.left),
        marked: sums,
        toGo: toGoBy,
        booking: bookingBy
      }
    )
  );
  const left = $derived(stillToMark(lineRows, line, mode, unit));
  const unexpected = $derived(unexpectedNumbers(lineRows, line, mode));

  const shelfOf = (product: string): Available[] =>
    [...(available[product] ?? [])].sort(soonestFirst);
  const shelf = $derived(shelfOf(line.product));
  const wished = $derived(
    Object.fromEntries(Object.entries(wishes).map(([code, one]) => [code, sayWishes(one)]))
  );
  const bad = $derived(
    new Set(
      [...placed.byLine].flatMap(([index, map]) =>
        [...map.values()].some((verdict) => verdict.tone === 'stop') ? [index] : []
      )
    )
  );
  const taken = $derived(
    new Set(lineRows.map((row) => (row.serial || row.lot || '').trim().toUpperCase()))
  );

  function change(next: Row[]): void {
    beforeAll = null;
    rows = { ...rows, [line.line]: next };
    work.changed();
  }
  /**
   * Changes the line through the grid where it stands, so that it can be taken back with Ctrl+Z.
   */
  const fill = (next: Row[]): void => (grid ? grid.replace(next) : change(next));

  const given = (): Row[] => givenRows(lineRows, line, mode);
  const fresh = (): Row => (kind === 'lot' && bearing ? proposedRow(inUnit(left, line, unit)) : {});

  /** Puts a mark into the first empty row of the line. */
  function addRow(row: Row): void {
    const empty = lineRows.findIndex((one) => isBlank(one, line, mode));
    const where = empty >= 0 ? empty : lineRows.length;
    const next = lineRows.slice();
    // A quantity that waited for its number keeps standing.
    const waiting = lineRows[where];
    const typed: Row = lacksNumber(waiting, line, mode) ? { quantity: waiting!.quantity! } : {};
    const begun = { ...fresh(), ...inheritedFrom(columns, lineRows[where - 1]) };
    next[where] = { ...begun, ...typed, ...row };
    fill(next);
    void tick().then(() => grid?.focusCell(where + 1, keyOf(line, mode)));
  }

  const lineOfGtin = (gtin: string | undefined): number =>
    gtin === undefined
      ? at
      : order.lines.findIndex(
          (one) => one.gtin === gtin || one.units.some((other) => other.gtin === gtin)
        );

  /** What a symbol says against this order; why not, where its product is not on it. */
  function takeSymbol(text: string): string {
    const reading = readElementString(text, today);
    if (!reading.ok)
      return `The symbol cannot be read: ${reading.why}. Scan it again; it may have been cut short.`;
    const { gtin, lot, serial, expires, made, count } = reading.symbol;
    const wanted = lineOfGtin(gtin);
    if (wanted < 0)
      return `GTIN ${gtin} is not on order ${order.number}, which has ${order.lines.map((one) => `${one.product}${one.gtin ? ` (GTIN ${one.gtin})` : ''}`).join(', ')}. Scan what belongs to it, or open the order of these goods.`;
    at = wanted;
    const holds = line.units.find((one) => one.gtin !== null && one.gtin === gtin)?.holds;
    const amount =
      kind === 'lot' && (count || holds)
        ? inUnit(
            quantity(count ?? '1')
              .times(holds ?? '1')
              .toFixed(),
            line,
            units[line.line]
          )
        : undefined;
    const allowed = new Set(columnsFor(line, mode, true).map((column) => column.key));
    const row = Object.fromEntries(
      Object.entries({ lot, serial, expires, made, quantity: amount }).filter(
        ([key, value]) => value !== undefined && allowed.has(key)
      )
    ) as Row;
    if (isBlank(row, line, mode))
      return `The symbol names ${line.product} but no ${keyOf(line, mode)}. Scan the ${keyOf(line, mode)} too.`;
    return takeNumber(row);
  }

  /**
   * A number that was announced is ticked off, with what was announced of it. Answers what is to be
   * said of it.
   */
  function takeNumber(row: Row): string {
    const number = (row[keyOf(line, mode)] ?? '').trim().toUpperCase();
    if (taken.has(number) && kind === 'serial') return `${row.serial} is on this sheet already.`;
    const announced = line.announced.find(
      (one) => (one.serial ?? one.lot)?.toUpperCase() === number
    );
    addRow({ ...(announced ? announcedRow(announced) : {}), ...row });
    return '';
  }

  /** Takes a scan onto the sheet; answers why it was not taken. */
  function putScan(text: string): string {
    if (looksLikeSymbol(text)) return takeSymbol(text);
    if (kind === 'amount')
      return `${line.product} is kept without numbers: say how much, or scan the product on another line.`;
    return takeNumber({
      [keyOf(line, mode)]: text,
      ...(mode === 'ship' && kind === 'lot' ? { quantity: fillFor(text) } : {})
    });
  }

  function takeScan(text: string): void {
    if (bench) bench.take(text);
    else said = putScan(text);
  }

  function record(way: string): void {
    oneByOne = way === 'hand';
    setOneByOne(localStorage, oneByOne);
    said = '';
  }

  function toLine(index: number): void {
    at = index;
    focused = 0;
    making = false;
    said = '';
    beforeAll = null;
  }

  /** What is wrong stands first, and in sight. */
  async function showFaultsFirst(): Promise<void> {
    fill(faultsFirst(lineRows, verdicts));
    await tick();
    void grid?.focusCell(0, columns[0]!.key);
  }

  /**
   * A number typed or scanned into a cell: a whole symbol is taken apart, an announced number
   * brings along what was announced of it.
   */
  function commit(index: number, key: string, value: string): boolean {
    if (looksLikeSymbol(value)) {
      const { [key]: _, ...rest } = lineRows[index] ?? {};
      change(
        Object.values(rest).some((one) => one.trim() !== '')
          ? lineRows.with(index, rest)
          : lineRows.toSpliced(index, 1)
      );
      said = takeSymbol(value);
      return true;
    }
    if (key !== keyOf(line, mode)) return false;
    const announced = line.announced.find(
      (one) => (one.serial ?? one.lot)?.toUpperCase() === value.toUpperCase()
    );
    if (announced)
      change(
        lineRows.with(index, {
          ...announcedRow(announced),
          ...Object.fromEntries(
            Object.entries(lineRows[index] ?? {}).filter(([, cell]) => cell.trim() !== '')
          )
        })
      );
    return false;
  }

  const fillFor = (lot: string): string => {
    const there = shelf.find((one) => one.number.toUpperCase() === lot.trim().toUpperCase());
    return there && quantity(there.quantity).lt(left) ? there.quantity : left;
  };

  function offer(text: string): string | null {
    if (!mayBook || work.booked) return null;
    if (looksLikeSymbol(text)) {
      const reading = readElementString(text, today);
      const target = reading.ok ? order.lines[lineOfGtin(reading.symbol.gtin)] : line;
      return target ? `Add to line ${target.product}` : `Read against ${order.number}`;
    }
    return kind === 'amount' ? null : `Add to line ${line.product}`;
  }

  /** Counts the last number on until the line is full. */
  function numberOn(): void {
    const last = lineRows.findLast((row) => row.serial?.trim());
    if (!last) {
      void grid?.focusCell(lineRows.length, 'serial');
      return;
    }
    const { serial: _, ...carried } = last;
    fill([
      ...given(),
      ...continueNumbers(last.serial!, Number(left)).map((serial) => ({ ...carried, serial }))
    ]);
  }

  /**
   * Fills the line with new numbers of the product's schemes: one lot, or a serial for each unit
   * still to come (all in one new lot).
   */
  async function makeNumbers(): Promise<void> {
    const wanted = kind === 'lot' ? 1 : Number(left);
    const lot =
      line.numbersLots && !line.lot
        ? await allot(line.product, 'lot', 1, line.place ?? place)
        : null;
    const serials = line.numbersSerials
      ? await allot(line.product, 'serial', wanted, line.place ?? place)
      : null;
    const refused = [lot, serials].find((block) => block && !block.ok);
    if (refused && !refused.ok) {
      work.refusal = refused.refusal;
      return;
    }
    const lots: Row = lot?.ok ? { lot: lot.numbers[0]! } : {};
    const carried = inheritedFrom(columns, given().at(-1));
    fill([
      ...given(),
      ...(serials?.ok
        ? serials.numbers.map((serial) => ({ ...carried, ...lots, serial }))
        : [{ ...fresh(), ...carried, ...lots }])
    ]);
  }

  /** Rows from a first number, or the line split over lots. */
  function makeFrom(numbers: string[], lot: string): void {
    const before = given();
    const carried = { ...inheritedFrom(columns, before.at(-1)), ...(lot ? { lot } : {}) };
    const shares =
      kind === 'lot' ? splitEvenly(inUnit(left, line, unit), numbers.length, line.decimals) : [];
    fill([
      ...before,
      ...numbers.map((number, index): Row =>
        kind === 'lot'
          ? { ...carried, lot: number, quantity: shares[index]! }
          : { ...carried, serial: number }
      )
    ]);
    making = false;
  }

  const proposeShelf = (): void =>
    fill(withFirstExpired(line, { rows: lineRows, unit, shelf, today }));

  /** What stood here before every line was filled at once. */
  let beforeAll = $state.raw<Pick<Body, 'lines' | 'arrived'> | null>(null);

  /** Fills every line as ordered; what somebody has to number is named, and the first put in hand. */
  function allAsOrdered(): void {
    if (waits || oneByOne || work.booked) return;
    const before = { lines: rows, arrived };
    const filled = fillAll(order.lines, mode, { rows, arrived }, { units, shelfOf, today });
    ({ rows, arrived } = filled);
    work.changed();
    toLine(filled.open.length > 0 ? nextOpenLine(toGoBy, order.lines.length - 1) : at);
    beforeAll = before;
    said = sayFilled(order.lines.length, filled.open, words.verb);
  }

  function takeAllBack(): void {
    if (!beforeAll) return;
    ({ lines: rows, arrived } = beforeAll);
    beforeAll = null;
    work.changed();
    said = 'What stood here before stands here again.';
  }

  /**
   * Reads the temperature probe into the row in hand, or where none is begun into every row that
   * has none. Answers what it said.
   */
  async function readProbe(): Promise<string> {
    const reading = await probe();
    if (!reading.ok) return reading.why;
    const told = `Probe: ${reading.celsius} °C.`;
    const key = factField(probed!.name);
    const target =
      lineRows[focused] && !lineRows[focused]![key]?.trim()
        ? [focused]
        : lineRows.flatMap((row, index) => (row[key]?.trim() ? [] : [index]));
    if (target.length === 0 && lineRows[focused]) target.push(focused);
    if (target.length === 0) {
      addRow({ [key]: reading.celsius });
      return told;
    }
    fill(
      lineRows.map((row, index) =>
        target.includes(index) ? { ...row, [key]: reading.celsius } : row
      )
    );
    return told;
  }

  function probeFor(row: number): Promise<string> {
    focused = row;
    return readProbe();
  }

  /** Where a known lot is given with another expiry: takes the lot's own. */
  const knownLot = $derived(
    mode === 'receive' && kind === 'lot'
      ? shelf.find(
          (one) =>
            one.kind === 'lot' &&
            one.number.toUpperCase() === lineRows[focused]?.lot?.trim().toUpperCase()
        )
      : undefined
  );
  const takeItsDate = (): void => {
    const { expires: _, ...rest } = lineRows[focused]!;
    fill(lineRows.with(focused, rest));
  };

  async function nextFault(): Promise<void> {
    const all = [...placed.byLine]
      .flatMap(([index, map]) =>
        [...map]
          .filter(([, verdict]) => verdict.tone === 'stop' || verdict.tone === 'reason')
          .map(([row]) => ({ index, row }))
      )
      .sort((a, b) => a.index - b.index || a.row - b.row);
    const after =
      all.find(({ index, row }) => index > at || (index === at && row > focused)) ?? all[0];
    if (!after) return;
    at = after.index;
    await tick();
    bench?.show(after.row);
    void grid?.focusCell(after.row, columnsFor(order.lines[at]!, mode)[0]!.key);
  }

  /** Units that leave by serial and have none on the sheet. */
  const unnamedSerials = $derived(
    mode === 'ship'
      ? order.lines.reduce(
          (sum, one) =>
            sum +
            (rowKind(one, mode) === 'serial'
              ? Math.max(
                  0,
                  Number(one.left) -
                    (rows[one.line] ?? []).filter((row) => row.serial?.trim()).length
                )
              : 0),
          0
        )
      : 0
  );
  let asked = $state(untrack(() => kept !== null));
  /** Asked once: the order goes on without its serials and stands on Today until they are named. */
  async function nameLater(): Promise<void> {
    const reply = await send('PATCH', `/api/v1/orders/sales/${encodeURIComponent(order.number)}`, {
      serialsLater: true
    });
    if (reply.ok) await refresh();
    else work.refusal = reply.refusal;
  }

  async function bookIt(): Promise<void> {
    if (await work.book()) return;
    await tick();
    if (!reasonPanel?.focus()) void nextFault();
  }

  onMount(() => {
    oneByOne = isOneByOne(localStorage);
    if (kept) work.judgeSoon();
    void work.openKeptHere();
    if (mayBook) scanTarget.current = { offer, take: takeScan };
    const drop = work.keys([
      { key: 'Ctrl+Enter', says: `${words.verb} what stands here`, act: bookIt },
      { key: 'n', says: 'next fault', act: nextFault },
      {
        key: 'l',
        says: 'next open line of the order',
        act: () => toLine(nextOpenLine(toGoBy, at))
      },
      ...(mayBook && mode !== 'identify'
        ? [{ key: 'f', says: 'fill all lines as ordered', act: allAsOrdered }]
        : []),
      { key: '1', says: 'one by one, in big type', act: () => record('hand') },
      { key: '2', says: 'as a sheet', act: () => record('sheet') }
    ]);
    if (mayBook && line.left !== '0' && window.innerWidth > 700)
      void grid?.focusCell(lineRows.length, keyOf(line, mode));
    return () => {
      scanTarget.current = null;
      dock?.close();
      drop();
    };
  });
</script>

<Working {list}>
  {#snippet sheet()}
    {#if work.booked}
      <BookedPanel
        booked={work.booked}
        verb={words.done}
        next={next
          ? {
              href: next,
              says:
                mode === 'identify'
                  ? 'Back to Today'
                  : `Next: ${decodeURIComponent(next.split('/').at(-1)!)}`
            }
          : null}
        receipt={mode === 'receive'}
        shipment={mode === 'ship'}
        missing={order.lines.flatMap((one) =>
          announcedOpen(rows[one.line] ?? [], one).map((number) => number.serial ?? number.lot!)
        )}
        onagain={sum.toGo === '0' ? null : () => location.reload()}
      />
    {:else}
      <div class="head">
        <h1>
          {#if mode === 'identify'}Give numbers · <span class="number">{order.number}</span
            >{:else}<span class="number">{order.number}</span> · {order.partnerName}{/if}
        </h1>
        {#if mayBook && sum.of !== '0'}<HowToRecord
            ways={WAYS}
            chosen={oneByOne ? 'hand' : 'sheet'}
            onchoose={record}
          />{/if}
        <div class="fields">
          {#if mode !== 'identify'}
            <label class="stack"
              >{mode === 'receive' ? 'into' : 'from'}
              <PlaceChoice
                {places}
                {...mode === 'ship' ? { none: 'wherever it lies' } : {}}
                bind:value={place}
                disabled={!mayBook}
                onchange={() => work.changed()}
              />
            </label>
            <label class="stack"
              >{mode === 'receive' ? 'delivery note' : 'carrier’s number'}
              <input
                class="field number"
                bind:value={reference}
                oninput={() => work.changed()}
                maxlength="100"
                disabled={!mayBook}
              />
            </label>
          {/if}
        </div>
      </div>
      <LineCards
        lines={order.lines}
        {mode}
        {at}
        {sums}
        toGo={toGoBy}
        {bad}
        {usable}
        wishes={wished}
        isTold={oneByOne && order.lines.length === 1}
        onpick={toLine}
        onall={mayBook && mode !== 'identify' && !oneByOne && !waits && order.lines.length > 1
          ? allAsOrdered
          : null}
      />
      {#if mode === 'ship' && order.state !== 'complete' && mayBook}
        <p class="ways">
          <a href="/ship/{encodeURIComponent(order.number)}/pick">Pick</a>
          <a href="/ship/{encodeURIComponent(order.number)}/pack">Pack</a>
          {#if order.serialsLater}<span class="soft"
              >Its serials are named later: while picking, or here until it leaves.</span
            >
          {:else if unnamedSerials > 0 && !asked}<span class="mind ask"
              >{sayQuantity(String(unnamedSerials))}
              {unnamedSerials === 1 ? 'serial is' : 'serials are'} not named yet.
              <button class="act quiet" onclick={() => (asked = true)}>Name them now</button><button
                class="act quiet"
                onclick={nameLater}>Name them later</button
              ></span
            >{/if}
        </p>
      {/if}
      <Refused refusal={work.refusal} {faults} />
      {#if dock}<DockNotes
          {dock}
          unreachable={work.refusal?.status === 0}
          faults={work.faults.length}
          onleave={() => void work.leaveHere()}
          ontake={(body, key) => work.takeKept(body, key)}
        />{/if}
      {#if hints.length > 0}<div class="hints" role="status">
          {#each hints.slice(0, 3) as hint, index (index)}<p>{hint.message}</p>{/each}
          <AndMore shown={3} total={hints.length} />
        </div>{/if}
      <OtherTab elsewhere={work.tabs?.elsewhere ?? null} />
      <ReasonPanel
        bind:this={reasonPanel}
        document={order.number}
        faults={work.faults}
        {reasons}
        {approvals}
        onchange={(given) => {
          reasons = given;
          work.changed();
        }}
        onapproved={(given) => {
          approvals = [...approvals, given];
          work.changed();
        }}
      />
      {#if line.left === '0' && lineRows.length === 0}
        <p class="complete">
          {line.product}
          {line.name} is complete: {sayQuantity(line.done)} of {sayQuantity(line.quantity)}
          {line.unit}
          {words.soFar}.
        </p>
      {:else if waits}
        <p class="complete">
          {sum.books} of {order.number}
          {sum.waits} here to be booked.
        </p>
      {:else if mayBook && oneByOne}
        <LineBench
          bind:this={bench}
          lines={order.lines}
          {at}
          {rows}
          {columns}
          scanned={keyOf(line, mode)}
          {verdicts}
          marked={sums[at]!}
          {left}
          ontake={putScan}
          onpick={toLine}
          onchange={change}
          onrestore={(kept) => {
            rows = kept.rows;
            at = kept.at;
            work.changed();
          }}
          onprobe={probed ? probeFor : null}
        />
      {:else if mayBook}
        <div class="tools">
          {#if mode === 'ship' && kind !== 'amount'}<button
              class="act"
              onclick={proposeShelf}
              disabled={left === '0'}>Take first expired</button
            >{#if order.partner}<a
                class="act"
                href="/ship/{encodeURIComponent(order.number)}/choose">Choose and promise …</a
              >{/if}{/if}
          {#if bearing && (kind === 'serial' ? line.numbersSerials : line.numbersLots)}<button
              class="act"
              onclick={makeNumbers}
              disabled={left === '0'}>Make numbers</button
            >{/if}
          {#if bearing && kind === 'serial'}<button
              class="act"
              onclick={numberOn}
              disabled={left === '0' || !lineRows.some((row) => row.serial?.trim())}
              >Number on to {sayQuantity(line.left)}</button
            >{/if}
          {#if bearing && kind !== 'amount'}<button
              class="act"
              aria-expanded={making}
              onclick={() => (making = !making)}
              disabled={left === '0'}
              >{kind === 'serial' ? 'From a first number …' : 'Split over lots …'}</button
            >{/if}
          {#if probed}<button class="act" onclick={async () => (said = await readProbe())}
              >Read probe</button
            >{/if}
          {#if kind === 'amount'}<button
              class="act"
              onclick={() => fill([{ quantity: inUnit(line.left, line, unit) }])}
              >All {sayQuantity(line.left)} {line.unit}</button
            >{/if}
          {#if line.units.length > 0 && kind !== 'serial'}
            <label class="inline"
              >counted in <select
                class="field"
                value={unit ?? ''}
                onchange={(event) => {
                  units = { ...units, [line.line]: event.currentTarget.value };
                  work.changed();
                }}
              >
                <option value="">{line.unit}</option>{#each line.units as one (one.name)}<option
                    value={one.name}>{one.name} of {sayQuantity(one.holds)}</option
                  >{/each}
              </select></label
            >
          {/if}
          {#if later}<label class="inline"
              >arrived <input
                class="field number amount"
                inputmode="decimal"
                value={arrived[line.line] ?? ''}
                placeholder={left}
                oninput={(event) => {
                  arrived = { ...arrived, [line.line]: event.currentTarget.value };
                  work.changed();
                }}
                aria-label="How much of {line.product} arrived"
              />
              {line.unit}</label
            >{/if}
          {#if costs}<label class="inline"
              >cost of one <input
                class="field number amount"
                inputmode="decimal"
                value={unitCosts[line.line] ?? ''}
                placeholder={costs.prices[line.line] ?? 'not known'}
                oninput={(event) => {
                  unitCosts = { ...unitCosts, [line.line]: event.currentTarget.value };
                  work.changed();
                }}
                aria-label="What one {line.unit} of {line.product} cost"
              />
              {costs.currency ?? ''}</label
            >{/if}
          {#if faults.length + work.faults.length > 0 && lineRows.length > 8}<button
              class="act quiet"
              onclick={showFaultsFirst}>Faults first</button
            >{/if}
          {#if more.length > 0 && bearing}<button
              class="act quiet"
              aria-expanded={moreShown}
              onclick={() => (moreShown = !moreShown)}
              >{moreShown
                ? 'Fewer columns'
                : `Also ${more.map((column) => column.label.toLowerCase()).join(', ')}`}</button
            >{/if}
          {#if lineRows.length > 0}<button class="act quiet" onclick={() => fill([])}
              >Clear line</button
            >{/if}
          <span class="small soft hint">paste a column or a table · scan anywhere</span>
        </div>
        {#if later}<p class="later small">
            Numbers of {line.product} may come later: what arrives without one is kept by quantity and
            waits on Today.
          </p>{/if}
        {#if making && kind !== 'amount'}{#key line.line}<FromFirst
              {kind}
              left={kind === 'lot' ? '2' : left}
              withLot={line.marking === 'serial-in-lot' && !line.lot}
              onmake={makeFrom}
              onclose={() => (making = false)}
            />{/key}{/if}
        {#if said}<p class="mind said" role="alert">
            {said}
            {#if beforeAll}<button class="act quiet" onclick={takeAllBack}>Take back</button>{/if}
          </p>{/if}
        <!-- A grid of its own for each line: what one line takes back must not land on another. -->
        {#key line.line}
          <NumberGrid
            bind:this={grid}
            bind:focused
            {columns}
            hidden={more}
            rows={kind === 'amount' ? [lineRows[0] ?? {}] : lineRows}
            {verdicts}
            onchange={change}
            {fresh}
            oncommit={commit}
            fixed={kind === 'amount'}
            label="Numbers of {line.product} {line.name}"
            onsay={(message) => (said = message)}
          />
        {/key}
      {:else}
        <p class="complete">Your role reads this order; it does not book it.</p>
      {/if}
    {/if}
  {/snippet}

  {#snippet margin()}
    <SheetMargin
      others={work.booked ? [] : draft.others}
      row={focused}
      verdict={oneByOne ? undefined : verdicts.get(focused)}
      title="{line.product} {line.name}"
      facts={[
        {
          says: mode === 'identify' ? 'without number' : 'ordered',
          value: line.enteredAs
            ? `${line.enteredAs} = ${amount(line.quantity)}`
            : amount(line.quantity),
          number: true
        },
        ...(mode === 'identify'
          ? []
          : [{ says: words.soFar, value: amount(line.done), number: true }]),
        ...(mode === 'receive' && line.most !== line.quantity
          ? [{ says: 'at most, by tolerance', value: amount(line.most), number: true }]
          : []),
        {
          says: 'on hand',
          value: amount(onHand[line.product] ?? '0'),
          number: true
        },
        ...(line.plan.expires === 'computed' && line.plan.shelfLifeDays && bearing
          ? [{ says: 'shelf life', value: `${line.plan.shelfLifeDays} days` }]
          : []),
        ...(order.due ? [{ says: 'due', value: sayDistance(order.due, today) }] : [])
      ]}
    >
      {#if knownLot && verdicts.get(focused)?.tone === 'stop' && lineRows[focused]?.expires}
        <section class="choices">
          <button class="act" onclick={takeItsDate}
            >Use the lot’s {knownLot.expires ? sayDay(knownLot.expires) : 'date'}</button
          > <a href="/marks/{knownLot.id}">Amend the lot</a>
        </section>
      {/if}
      {#if line.announced.length > 0 && mode === 'receive'}<AnnouncedList
          {line}
          rows={lineRows}
          mayTake={mayBook && !work.booked}
          {unexpected}
          ontake={() => fill([...given(), ...announcedOpen(lineRows, line).map(announcedRow)])}
        />{/if}
      <section>
        <h2>{mode === 'ship' ? 'To take, soonest expiry first' : 'On hand now'}</h2>
        <ul class="shelf">
          {#each shelf.slice(0, 14) as one (`${one.id} ${one.place}`)}
            {@const expired = one.expires !== null && one.expires < today}
            {@const addable =
              mayBook &&
              !work.booked &&
              one.kind !== 'bulk' &&
              (mode === 'ship'
                ? !expired && one.state === 'usable'
                : mode === 'receive' && one.kind === 'lot' && kind === 'lot')}
            <li>
              <Tag
                kind={one.kind}
                number={one.kind === 'bulk' ? null : one.number}
                under="{one.kind === 'serial'
                  ? ''
                  : `${amount(one.quantity)} · `}{one.place}{mode === 'receive' &&
                one.kind === 'lot' &&
                one.expires &&
                !expired
                  ? ` · ${sayDay(one.expires)}`
                  : ''}"
                state={one.state}
                expired={expired ? `expired ${sayDistance(one.expires!, today)}` : undefined}
                href="/marks/{one.id}"
              />
              {#if addable}
                <button
                  class="take"
                  disabled={taken.has(one.number.toUpperCase())}
                  aria-label={mode === 'ship' ? `Take ${one.number}` : `Add to lot ${one.number}`}
                  onclick={() =>
                    addRow(
                      kind === 'lot'
                        ? {
                            lot: one.number,
                            quantity:
                              mode === 'ship' ? fillFor(one.number) : inUnit(left, line, unit)
                          }
                        : { serial: one.number }
                    )}>{taken.has(one.number.toUpperCase()) ? '✓' : '+'}</button
                >
              {:else if one.expires && !expired && mode === 'ship'}<span class="small soft"
                  >{sayDay(one.expires)}</span
                >{/if}
            </li>
          {:else}<li class="soft small">Nothing of {line.product} is on hand.</li>{/each}
        </ul>
        {#if shelf.length > 14}<p class="small soft">
            and {shelf.length - 14} more, all under
            <a href="/on-hand?q={encodeURIComponent(line.product)}">On hand</a>
          </p>{/if}
      </section>
      <OrderBookings {order} />
    </SheetMargin>
  {/snippet}

  {#snippet tally()}
    {#if !work.booked && mayBook}
      <Tally
        marked={sum.marked}
        of={sum.of}
        what={sum.what}
        toGo={sum.toGo}
        faults={waits ? 0 : work.faults.length}
        onnext={nextFault}
        kept={work.keptAt}
        keeping={work.keeping}
        onlyHere={dock?.onlyHere ?? false}
        withoutLine={dock?.isReady ?? false}
        busy={work.booking}
        action="{words.verb} {sum.books}"
        disabled={built === null || work.booking || waits}
        why={built === null ? 'Give a number first.' : ''}
        onbook={bookIt}
      />
    {:else}
      <span class="soft small"
        >{work.booked ? 'Booked. The ledger has it.' : `${sum.open} to go on this order.`}</span
      >
    {/if}
  {/snippet}
</Working>

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 8px 16px;
    padding: 10px 18px;
    border-bottom: 1px solid var(--line);
  }
  .fields {
    display: flex;
    gap: 12px;
    flex-wrap: wrap;
  }
  .fields .field {
    height: 34px;
    font-size: 14px;
    max-width: 200px;
  }
  .fields label {
    grid-auto-flow: column;
    align-items: center;
    gap: 6px;
  }
  .fields input {
    width: 110px;
  }
  .tools {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 10px;
    align-items: center;
    padding: 8px 18px;
  }
  .hint {
    margin-left: auto;
  }
  .inline {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    font-size: 14px;
    color: var(--ink-soft);
  }
  .inline .field {
    height: 36px;
  }
  .amount {
    width: 92px;
  }
  .hints {
    margin: 8px 18px 0;
    padding: 8px 12px;
    background: var(--slate-pale);
    font-size: 14px;
  }
  .said {
    margin: 0 18px 8px;
  }
  .later {
    margin: 0 18px 6px;
    color: var(--slate);
  }
  .choices {
    display: grid;
    gap: 6px;
  }
  .ways {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    align-items: center;
    padding: 6px 18px 0;
    font-weight: 600;
    font-size: 14px;
  }
  .ways span {
    font-weight: 400;
  }
  .ask {
    display: inline-flex;
    align-items: center;
    flex-wrap: wrap;
  }
  .complete {
    padding: 24px 18px;
    color: var(--ink-soft);
  }
  .shelf {
    display: grid;
    gap: 8px;
    margin-top: 6px;
  }
  .shelf li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
    align-items: center;
  }
  .take {
    width: 40px;
    height: 40px;
    border: 1px solid var(--brass);
    border-radius: 2px;
    background: var(--panel);
    color: var(--brass);
    font-size: 18px;
    font-weight: 600;
    cursor: pointer;
  }
  .take:disabled {
    border-color: var(--line);
    color: var(--sea);
  }
  @media (max-width: 700px) {
    .hint {
      display: none;
    }
  }
</style>
