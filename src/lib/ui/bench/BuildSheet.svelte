<!-- The sheet of a work order, recorded three ways that mix: unit by unit, as a sheet of units, and for the batch. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import DateField from '../parts/DateField.svelte';
  import { onMount, tick, untrack, type Snippet } from 'svelte';
  import { refresh } from '../frame/refresh.ts';
  import { soonestFirst } from '../../core/stock/first-expired.ts';
  import type { CoProduct } from '../../core/catalogue/bill.ts';
  import { positionsOf, type Component } from '../../core/catalogue/positions.ts';
  import { sayDistance } from '../../core/calendar/say-day.ts';
  import type { Marking } from '../../core/catalogue/marking.ts';
  import { draftNumbers } from '../../core/ledger/draft-numbers.ts';
  import { hasSerials, type MarkingPlan } from '../../core/catalogue/plan.ts';
  import { continueNumbers } from '../../core/numbers/continue.ts';
  import { scanTarget } from '../frame/scan-target.svelte.ts';
  import Tag from '../stock/Tag.svelte';
  import { count, sayAmount, sayQuantity } from '../parts/say.ts';
  import Working from '../parts/Working.svelte';
  import { allot } from './allot.ts';
  import BookedPanel from './BookedPanel.svelte';
  import { BookingSheet } from './booking-sheet.svelte.ts';
  import {
    batchGroup,
    batchRows,
    lotsForNextUnit,
    outputColumns,
    shortFor,
    stillToName,
    unitColumns,
    unitGroups,
    type Making
  } from './build-rows.ts';
  import type { Available } from './LineSheet.svelte';
  import type { Column, Row, RowVerdict } from './grid.ts';
  import NameOutputs from './NameOutputs.svelte';
  import HowToRecord from './HowToRecord.svelte';
  import NumberGrid from './NumberGrid.svelte';
  import OtherTab from './OtherTab.svelte';
  import ReasonPanel from './ReasonPanel.svelte';
  import type { Approval } from './approvals.ts';
  import { reasonsGiven } from './reasons.ts';
  import AndMore from '../parts/AndMore.svelte';
  import Refused from './Refused.svelte';
  import { rowMessage } from './row-message.ts';
  import ScrapDialog from './ScrapDialog.svelte';
  import type { Booked } from '../orders/booking-against.ts';
  import OrderBookings from '../orders/OrderBookings.svelte';
  import SheetMargin from './SheetMargin.svelte';
  import Tally from './Tally.svelte';
  import UnitBench from './UnitBench.svelte';
  import { quantity } from '../../core/quantity/quantity.ts';

  type Mode = 'unit' | 'sheet' | 'batch';
  interface Body {
    units: Row[];
    batch: Row[];
    lot: string;
    made: string;
    place: string;
    born: Row;
    reasons: Record<string, string>;
    approvals?: Approval[];
    mode: Mode;
    byHand: boolean;
    co: Record<string, { lot: string; quantity: string }>;
  }
  interface Output {
    id: number;
    number: string;
    lot: string | null;
    mark: number | null;
  }
  interface Props {
    order: Booked & {
      number: string;
      state: string;
      due: string;
      place: string | null;
      bill: { version: number; latest: number } | null;
      outputs: readonly (Output & { product: string })[];
    };
    line: {
      product: string;
      name: string;
      unit: string;
      marking: Marking;
      quantity: string;
      done: string;
      left: string;
      numbersLots: boolean;
      numbersSerials: boolean;
      plan: MarkingPlan;
    };
    components: readonly Component[];
    coProducts: readonly CoProduct[];
    batchSize: string | null;
    scrapped: readonly {
      product: string;
      unit: string;
      number: string | null;
      quantity: string;
      reason: string;
      event: number;
    }[];
    places: readonly { code: string; name: string; kind: string; siteName: string }[];
    available: Record<string, readonly Available[]>;
    /** What of each part may be used, over all that lies anywhere. */
    usable: Record<string, string>;
    /** What lies of each part, in all. */
    onHand: Record<string, string>;
    draft: { body: unknown; keptAt: string | null; others: readonly string[] };
    today: string;
    mayBook: boolean;
    next: string | null;
    list: Snippet;
  }
  let {
    order,
    line,
    components,
    coProducts,
    batchSize,
    scrapped,
    places,
    available,
    usable,
    onHand,
    draft,
    today,
    mayBook,
    next,
    list
  }: Props = $props();

  /** How much of what is made, with its unit. */
  const amount = (quantity: string): string => sayAmount(quantity, line.unit);

  const kept = untrack(() => draft.body) as (Partial<Body> & { key?: string }) | null;
  const perUnit = untrack(() => hasSerials(line.marking));
  const making = untrack((): Making => ({
    product: line.product,
    marking: line.marking,
    components,
    batch: batchSize,
    coProducts
  }));
  let mode = $state<Mode>(untrack(() => (perUnit ? (kept?.mode ?? 'sheet') : 'batch')));
  let units = $state.raw<Row[]>(kept?.units ?? []);
  let lot = $state(
    kept?.lot ??
      untrack(() => (perUnit ? '' : (order.outputs.find((one) => one.mark === null)?.number ?? '')))
  );
  let made = $state(kept?.made ?? untrack(() => (line.left === '0' ? '' : line.left)));
  let batch = $state.raw<Row[]>(
    kept?.batch ??
      untrack(() =>
        perUnit || line.left === '0' ? [] : batchRows(making, line.left, [], available, today)
      )
  );
  /** Rows of the batch that somebody changed are no longer filled by themselves. */
  let byHand = $state(kept?.byHand ?? false);
  let co = $state.raw<Body['co']>(kept?.co ?? {});
  let place = $state(
    kept?.place ??
      untrack(
        () =>
          order.place ?? places.find((one) => one.kind === 'line')?.code ?? places[0]?.code ?? ''
      )
  );
  /** Dates and facts of the batch made; those of units stand in their rows. */
  let born = $state.raw<Row>(kept?.born ?? {});
  /** What a batch is born with, as it is given. */
  function bear(key: string, value: string): void {
    born = { ...born, [key]: value };
    work.changed();
  }
  let reasons = $state.raw<Record<string, string>>(kept?.reasons ?? {});
  let approvals = $state.raw<Approval[]>(kept?.approvals ?? []);
  let outputs = $state.raw<readonly Output[]>(untrack(() => order.outputs));
  let said = $state('');
  let focused = $state(0);
  let inHand = $state(
    untrack(() => {
      const open = (kept?.units ?? []).findIndex(
        (row) =>
          row.serial?.trim() &&
          positionsOf(components).some((position) => !row[position.key]?.trim())
      );
      return open >= 0 ? open : (kept?.units ?? []).length;
    })
  );
  let naming = $state(false);
  let scrapping = $state(false);
  let grid = $state<ReturnType<typeof NumberGrid>>();
  let reasonPanel = $state<ReturnType<typeof ReasonPanel>>();
  let bench = $state<ReturnType<typeof UnitBench>>();

  const asked = untrack(() => outputColumns(line.plan));
  const positions = untrack(() => positionsOf(components));
  const forUnits = untrack((): Column[] => [
    ...unitColumns(line.product, line.marking, positions),
    ...asked
  ]);
  const forBatch: Column[] = [
    { key: 'product', label: 'Component', kind: 'number' },
    { key: 'number', label: 'Lot or serial', kind: 'number' },
    { key: 'quantity', label: 'Quantity', kind: 'quantity', width: '120px' }
  ];
  const named = $derived(units.filter((row) => row.serial?.trim()).length);
  const waiting = $derived(
    outputs.filter(
      (one) =>
        one.mark === null &&
        !units.some((row) => row.serial?.trim().toUpperCase() === one.number.toUpperCase())
    )
  );

  const work = untrack(
    () =>
      new BookingSheet<Body>({
        kind: 'builds',
        sheet: `build ${order.number}`,
        readonly: !mayBook,
        body: () => ({
          units,
          batch,
          lot,
          made,
          place,
          born,
          reasons,
          approvals,
          mode,
          byHand,
          co
        }),
        numbers: () =>
          draftNumbers(
            units.flatMap((row) => [
              { product: line.product, serial: row.serial },
              ...positions
                .filter((position) => position.serial)
                .map((position) => ({
                  product: position.component.product,
                  serial: row[position.key]
                }))
            ])
          ),
        request: () => built?.request ?? null,
        kept: { key: kept?.key, keptAt: kept ? draft.keptAt : null }
      })
  );

  const built = $derived.by(() => {
    const circumstances = { document: order.number, place, ...reasonsGiven(reasons, approvals) };
    if (!perUnit && (made.trim() === '' || (line.marking === 'lot' && lot.trim() === '')))
      return null;
    const from = perUnit
      ? unitGroups(making, units, batch, asked)
      : batchGroup(making, lot, made, batch, born, asked, co);
    return from.groups.length === 0
      ? null
      : {
          ...from,
          request: {
            ...circumstances,
            groups: from.groups,
            ...(from.shared.length > 0 ? { shared: from.shared } : {})
          }
        };
  });

  const placed = $derived.by(() => {
    const verdicts = new Map<number, RowVerdict & { full: string }>();
    const ofBatch = new Map<number, RowVerdict & { full: string }>();
    const loose: (typeof work.faults)[number][] = [];
    if (work.judged && built) {
      for (const row of built.rowOf) {
        const ofBatchToo = uncovered.map((component) => `${component.product} of the batch`);
        const missing = [...(built.missing.get(row) ?? []), ...ofBatchToo].join(', ');
        verdicts.set(
          row,
          missing
            ? {
                tone: 'reason',
                text: `${missing} not named`,
                full: `Without ${missing} this unit can be built, but no trace will ever find what is missing. Scan it now if it is there.`
              }
            : { tone: 'good', text: 'complete', full: '' }
        );
      }
      for (const row of built.sharedRowOf)
        if (row !== null) ofBatch.set(row, { tone: 'good', text: 'there', full: '' });
    }
    for (const note of work.notes)
      if (note.path !== 'document') loose.push({ ...note, code: 'note' });
    for (const fault of work.faults) {
      const group = /^groups\[(\d+)\]/.exec(fault.path)?.[1],
        shared = /^shared\[(\d+)\]/.exec(fault.path)?.[1];
      const row = !built
        ? undefined
        : group !== undefined
          ? built.rowOf[Number(group)]
          : shared !== undefined
            ? (built.sharedRowOf[Number(shared)] ?? undefined)
            : undefined;
      const into = shared !== undefined ? ofBatch : verdicts;
      if (row === undefined) loose.push(fault);
      else if (into.get(row)?.tone !== 'stop')
        into.set(row, {
          tone: fault.answer === 'reason' ? 'reason' : 'stop',
          text: rowMessage(fault.message),
          full: fault.message
        });
    }
    return { verdicts, ofBatch, loose };
  });
  const faults = $derived(placed.loose.filter((fault) => fault.code !== 'note'));
  const hints = $derived(placed.loose.filter((fault) => fault.code === 'note'));
  const marked = $derived(perUnit ? String(named) : built ? made.trim() : '0');
  const toGo = $derived(String(Math.max(0, Number(line.left) - (Number(marked) || 0))));
  const unnamed = $derived(
    built ? [...built.missing.values()].reduce((sum, missing) => sum + missing.length, 0) : 0
  );
  const open = $derived(
    stillToName(making, quantity(perUnit ? named : Number(made) || 0), units, batch)
  );
  const uncovered = $derived(
    built
      ? components.filter(
          (component) =>
            component.follow !== 'drawn' &&
            !(perUnit && positions.some((position) => position.component === component)) &&
            open.get(component.product)!.gt(0)
        )
      : []
  );
  const shortages = $derived(shortFor(making, perUnit ? line.left : made, usable));
  const drawn = $derived(
    components.filter(
      (component) => component.follow === 'drawn' && open.get(component.product)!.gt(0)
    )
  );

  /** Parts not yet on the sheet, to scan or to tap. */
  const usedSerials = $derived(
    new Set([
      ...units.flatMap((row) =>
        positions
          .filter((position) => position.serial)
          .map((position) => row[position.key]?.trim().toUpperCase() ?? '')
      ),
      ...batch.map((row) => row.number?.trim().toUpperCase() ?? '')
    ])
  );
  const shelf = $derived(
    components.map((component) => ({
      component,
      marks: [...(available[component.product] ?? [])]
        .sort(soonestFirst)
        .filter((one) => one.kind !== 'serial' || !usedSerials.has(one.number.toUpperCase()))
    }))
  );

  /**
   * What is named once for the batch follows the number of units, until somebody fills it by hand.
   */
  function refillBatch(): void {
    if (byHand) return;
    batch = perUnit
      ? batchRows(
          making,
          String(named),
          units,
          available,
          today,
          (component) => component.follow === 'batch'
        )
      : batchRows(making, made, [], available, today);
  }

  function change(rows: Row[]): void {
    units = rows;
    refillBatch();
    work.changed();
  }
  function changeBatch(rows: Row[]): void {
    batch = rows;
    byHand = true;
    work.changed();
  }
  function choose(next: Mode): void {
    mode = next;
    // The unit in hand is the first that still lacks a part.
    if (next === 'unit') {
      const open = units.findIndex(
        (row) => row.serial?.trim() && positions.some((position) => !row[position.key]?.trim())
      );
      inHand = open >= 0 ? open : units.length;
    }
    if (next === 'unit' && named === 0 && waiting[0]) {
      units = [freshFor(waiting[0].number)];
      inHand = 0;
      refillBatch();
    }
    work.changed();
  }

  const freshUnit = (index: number): Row =>
    lotsForNextUnit(positions, units.slice(0, index), available, today);
  const lotOf = (serial: string): string | undefined =>
    outputs.find((one) => one.number.toUpperCase() === serial.toUpperCase())?.lot ??
    lastUnit()?.lot;
  const freshFor = (serial: string): Row => {
    const within = lotOf(serial);
    return { ...(within ? { lot: within } : {}), ...freshUnit(units.length), serial };
  };

  /** A scanned part goes to its position on the unit in hand, a new serial begins the next unit. */
  function takeScan(text: string): void {
    if (mode === 'unit') {
      bench?.take(text);
      return;
    }
    const key = text.trim().toUpperCase();
    if (!perUnit) return;
    const product = Object.entries(available).find(([, marks]) =>
      marks.some((mark) => mark.number.toUpperCase() === key)
    )?.[0];
    const row = units[focused]?.serial?.trim()
      ? focused
      : units.findLastIndex((unit) => unit.serial?.trim());
    const position = positions.find(
      (one) => one.component.product === product && (!one.serial || !units[row]?.[one.key]?.trim())
    );
    if (product && position && row >= 0)
      change(units.with(row, { ...units[row], [position.key]: text }));
    else if (!product) {
      const at = units.findIndex((unit) => !unit.serial?.trim());
      const where = at >= 0 ? at : units.length;
      const rows = units.slice();
      rows[where] = { ...freshUnit(where), ...rows[where], serial: text };
      focused = where;
      change(rows);
    }
  }

  const lastUnit = (): Row | undefined => units.findLast((row) => row.serial?.trim());

  /**
   * Units after those that have a serial, in the lot of the last, their component lots filled in.
   */
  function addUnits(serials: readonly string[]): void {
    const rows = units.filter((row) => row.serial?.trim());
    for (const serial of serials) {
      const within = lotOf(serial);
      rows.push({
        ...(within ? { lot: within } : {}),
        ...lotsForNextUnit(positions, rows, available, today),
        serial
      });
    }
    change(rows);
  }

  function numberOn(): void {
    const last = lastUnit();
    if (last) addUnits(continueNumbers(last.serial!, Math.min(5000, Number(toGo))));
  }

  /** New numbers of the product's scheme for all units still to go, or for the lot made. */
  async function makeNumbers(): Promise<void> {
    const block = await allot(
      line.product,
      perUnit ? 'serial' : 'lot',
      perUnit ? Number(toGo) : 1,
      place
    );
    if (!block.ok) {
      work.refusal = block.refusal;
      return;
    }
    if (perUnit) addUnits(block.numbers);
    else {
      lot = block.numbers[0]!;
      work.changed();
    }
  }

  /** Fills every empty serial position from what is on hand, first expired first. */
  function fillParts(): void {
    const free = new Map(
      shelf.map(({ component, marks }) => [
        component.product,
        marks
          .filter(
            (mark) => mark.state === 'usable' && (mark.expires === null || mark.expires >= today)
          )
          .map((mark) => mark.number)
      ])
    );
    change(
      units.map((row) => {
        if (!row.serial?.trim()) return row;
        const filled = { ...row };
        for (const position of positions)
          if (position.serial && !filled[position.key]?.trim()) {
            const part = free.get(position.component.product)?.shift();
            if (part) filled[position.key] = part;
          }
        return filled;
      })
    );
  }

  /** Everything no unit names yet, drawn for the batch first expired first. */
  function refill(): void {
    batch = batchRows(making, perUnit ? String(named) : made, units, available, today);
    byHand = true;
    work.changed();
  }

  async function nextFault(): Promise<void> {
    const bad = [...(mode === 'batch' ? placed.ofBatch : placed.verdicts)]
      .filter(([, verdict]) => verdict.tone === 'stop')
      .map(([row]) => row)
      .sort((a, b) => a - b);
    const row = bad.find((one) => one > focused) ?? bad[0];
    if (row !== undefined) {
      await tick();
      void grid?.focusCell(row);
    } else if (
      perUnit &&
      placed.ofBatch.size > 0 &&
      mode !== 'batch' &&
      [...placed.ofBatch.values()].some((verdict) => verdict.tone === 'stop')
    )
      mode = 'batch';
    else if (
      perUnit &&
      mode === 'batch' &&
      [...placed.verdicts.values()].some((verdict) => verdict.tone === 'stop')
    )
      mode = 'sheet';
  }

  async function bookIt(): Promise<void> {
    if (await work.book()) return;
    await tick();
    if (!reasonPanel?.focus()) void nextFault();
  }

  onMount(() => {
    if (kept) work.judgeSoon();
    if (mayBook)
      scanTarget.current = {
        offer: (text) => (!work.booked && perUnit ? `Put ${text} on this sheet` : null),
        take: takeScan
      };
    const drop = work.keys([
      { key: 'Ctrl+Enter', says: 'Book what stands here', act: bookIt },
      { key: 'n', says: 'next fault', act: nextFault },
      ...(perUnit
        ? [
            { key: '1', says: 'unit by unit', act: () => choose('unit') },
            { key: '2', says: 'the sheet of units', act: () => choose('sheet') },
            { key: '3', says: 'for the batch', act: () => choose('batch') }
          ]
        : [])
    ]);
    if (mayBook && perUnit && mode === 'sheet' && line.left !== '0' && window.innerWidth > 700)
      void grid?.focusCell(units.length);
    return () => {
      scanTarget.current = null;
      drop();
    };
  });

  const MODES: [Mode, string][] = [
    ['unit', 'Unit by unit'],
    ['sheet', 'Sheet'],
    ['batch', 'For the batch']
  ];
</script>

<Working {list}>
  {#snippet sheet()}
    {#if work.booked}
      <BookedPanel
        booked={work.booked}
        verb="Built on"
        next={next
          ? { href: next, says: `Next: ${decodeURIComponent(next.split('/').at(-1)!)}` }
          : null}
        onagain={toGo === '0' ? null : () => location.reload()}
      />
    {:else}
      <div class="head">
        <h1>
          <span class="number">{order.number}</span> · {sayQuantity(line.quantity)}
          {line.product} <span class="name">{line.name}</span>
        </h1>
        <label class="stack inline"
          >at
          <PlaceChoice
            {places}
            bind:value={place}
            disabled={!mayBook}
            onchange={() => work.changed()}
          />
        </label>
      </div>
      <div class="bar">
        {#if perUnit && mayBook}
          <HowToRecord ways={MODES} chosen={mode} onchoose={(way) => choose(way as Mode)} />
        {/if}
        <span class="links">
          {#if order.bill}<a
              href="/setup/products/{encodeURIComponent(line.product)}/bill?version={order.bill
                .version}">bill version {order.bill.version}</a
            >{/if}
          {#if mayBook && line.marking !== 'none'}<button
              class="link"
              onclick={() => (naming = true)}
              >{outputs.length > 0 ? `${outputs.length} named` : 'name ahead'}</button
            >{/if}
          <a
            href="/api/v1/orders/work/{encodeURIComponent(order.number)}/traveler"
            target="_blank"
            rel="noopener">traveler</a
          >
          {#if mayBook}<button class="link" onclick={() => (scrapping = true)}>scrap …</button>{/if}
        </span>
      </div>
      {#if order.bill && order.bill.latest > order.bill.version}<p class="mind short">
          The bill has changed: version {order.bill.latest} is the latest, and this order keeps version
          {order.bill.version}, by which it was entered.
        </p>{/if}
      <Refused refusal={work.refusal} {faults} />
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
      {#if hints.length > 0}<div class="hints">
          {#each hints.slice(0, 4) as hint, index (index)}<p>
              {hint.message}
            </p>{/each}<AndMore shown={4} total={hints.length} />
        </div>{/if}
      {#if components.length === 0}<p class="complete">
          No components are set up for {line.product}.
          <a href="/setup/products/{encodeURIComponent(line.product)}/bill">Say what one takes</a>,
          or book without: it will be a loose end.
        </p>{/if}
      {#if !mayBook}
        <p class="complete">
          {line.left === '0'
            ? `Complete: ${sayQuantity(line.done)} of ${amount(line.quantity)} built.`
            : 'Your role reads this order; it does not book it.'}
        </p>
      {:else}
        {#if shortages.length > 0 && line.left !== '0'}<p class="mind short">
            <b>Short for what is to go:</b>
            {shortages
              .map((row) => `${sayQuantity(row.short)} ${row.unit} of ${row.product}`)
              .join(', ')}.
          </p>{/if}
        {#if mode === 'unit' && perUnit}
          <UnitBench
            bind:this={bench}
            order={order.number}
            product={line.product}
            {positions}
            {units}
            at={inHand}
            waiting={waiting.map((one) => one.number)}
            of={line.left}
            fresh={freshFor}
            onchange={(rows, at) => {
              inHand = at;
              change(rows);
            }}
          />
        {:else}
          <div class="tools">
            {#if perUnit && mode === 'sheet'}
              {#if waiting.length > 0}<button
                  class="act"
                  onclick={() =>
                    addUnits(waiting.slice(0, Math.max(1, Number(toGo))).map((one) => one.number))}
                  >Put {count(Math.min(waiting.length, Math.max(1, Number(toGo))), 'named unit')} on the
                  sheet</button
                >
              {:else if line.numbersSerials}<button
                  class="act"
                  onclick={makeNumbers}
                  disabled={toGo === '0'}>Make numbers</button
                >{/if}
              <button class="act" onclick={numberOn} disabled={toGo === '0' || named === 0}
                >Number on to {sayQuantity(line.left)}</button
              >
              {#if positions.some((position) => position.serial)}<button
                  class="act"
                  onclick={fillParts}
                  disabled={named === 0}>Fill parts in order</button
                >{/if}
              {#if units.length > 0}<button class="act quiet" onclick={() => change([])}
                  >Clear sheet</button
                >{/if}
            {:else if perUnit}
              <span class="small soft hint"
                >For {count(named, 'unit')} together: what nobody can say of a single unit.</span
              >
              <button class="act low" onclick={refill} disabled={named === 0}
                >Draw what is not named, first expired first</button
              >
            {:else}
              {#if line.marking === 'lot'}<label class="stack"
                  >made lot<input
                    class="field number"
                    bind:value={lot}
                    oninput={() => work.changed()}
                    maxlength="60"
                    aria-label="Lot made"
                  /></label
                >{/if}
              {#if line.numbersLots}<button class="act low" onclick={makeNumbers}
                  >Make lot number</button
                >{/if}
              <label class="stack"
                >made, {line.unit}<input
                  class="field number amount"
                  bind:value={made}
                  oninput={() => {
                    refillBatch();
                    work.changed();
                  }}
                  inputmode="decimal"
                  aria-label="Quantity made"
                /></label
              >
              {#each asked as column (column.key)}{#if column.kind === 'date'}<DateField
                    label={column.label.toLowerCase()}
                    monthEnds={column.monthEnds ?? false}
                    bind:value={() => born[column.key] ?? '', (day) => bear(column.key, day)}
                  />{:else}<label class="stack"
                    >{column.label.toLowerCase()}{#if column.choices}<select
                        class="field"
                        value={born[column.key] ?? ''}
                        onchange={(event) => bear(column.key, event.currentTarget.value)}
                        ><option value=""></option>{#each column.choices as choice (choice)}<option
                            value={choice}>{choice}</option
                          >{/each}</select
                      >{:else}<input
                        class="field number amount"
                        value={born[column.key] ?? ''}
                        oninput={(event) => bear(column.key, event.currentTarget.value)}
                      />{/if}</label
                  >{/if}{/each}
              {#each coProducts as one (one.product)}
                <label class="stack"
                  >also {one.product}, quantity<input
                    class="field number amount"
                    value={co[one.product]?.quantity ?? ''}
                    inputmode="decimal"
                    oninput={(event) => {
                      co = {
                        ...co,
                        [one.product]: {
                          lot: co[one.product]?.lot ?? '',
                          quantity: event.currentTarget.value
                        }
                      };
                      work.changed();
                    }}
                  /></label
                >
                <label class="stack"
                  >lot of {one.product}<input
                    class="field number amount"
                    value={co[one.product]?.lot ?? ''}
                    maxlength="60"
                    oninput={(event) => {
                      co = {
                        ...co,
                        [one.product]: {
                          quantity: co[one.product]?.quantity ?? '',
                          lot: event.currentTarget.value
                        }
                      };
                      work.changed();
                    }}
                  /></label
                >
              {/each}
              <button class="act low" onclick={refill}>Draw first expired for {made || '0'}</button>
            {/if}
          </div>
          {#if said}<p class="mind short" role="alert">{said}</p>{/if}
          {#if perUnit && mode === 'sheet'}
            <NumberGrid
              bind:this={grid}
              bind:focused
              onsay={(message) => (said = message)}
              columns={forUnits}
              rows={units}
              verdicts={placed.verdicts}
              onchange={change}
              fresh={freshUnit}
              label="Units of {line.product} and their components"
            />
          {:else}
            <NumberGrid
              bind:this={grid}
              bind:focused
              onsay={(message) => (said = message)}
              columns={forBatch}
              rows={batch}
              verdicts={placed.ofBatch}
              onchange={changeBatch}
              label="What went into the batch of {line.product}"
            />
          {/if}
        {/if}
        {#if named > 0 || !perUnit}
          {@const forAll =
            perUnit && mode !== 'batch' ? batch.filter((row) => row.product?.trim()) : []}
          {#if forAll.length > 0 || drawn.length > 0 || uncovered.length > 0}
            <p class="foot small">
              {#if forAll.length > 0}<span
                  >For all {named}: {forAll
                    .slice(0, 4)
                    .map((row) => `${row.product} ${row.number} ${sayQuantity(row.quantity ?? '')}`)
                    .join(', ')}{forAll.length > 4 ? ` and ${forAll.length - 4} more` : ''}.</span
                >{/if}
              {#if drawn.length > 0}<span
                  >Drawn by itself: {drawn
                    .map(
                      (component) =>
                        `${component.product} ${sayQuantity(open.get(component.product)!.toFixed())} ${component.unit}`
                    )
                    .join(', ')}.</span
                >{/if}
              {#if uncovered.length > 0}<b
                  >Not named: {uncovered
                    .map(
                      (component) =>
                        `${sayQuantity(open.get(component.product)!.toFixed())} ${component.unit} of ${component.product}`
                    )
                    .join(', ')}.</b
                >{/if}
            </p>
          {/if}
        {/if}
      {/if}
    {/if}
  {/snippet}

  {#snippet margin()}
    <SheetMargin
      others={work.booked ? [] : draft.others}
      row={focused}
      verdict={mode === 'batch'
        ? placed.ofBatch.get(focused)
        : placed.verdicts.get(mode === 'unit' ? inHand : focused)}
      title="{line.product} {line.name}"
      facts={[
        { says: 'ordered', value: amount(line.quantity), number: true },
        { says: 'built', value: amount(line.done), number: true },
        { says: 'due', value: sayDistance(order.due, today) }
      ]}
    >
      {#if scrapped.length > 0}<section>
          <h2>Scrapped on this order</h2>
          <ul class="scrapped">
            {#each scrapped.slice(0, 5) as one, index (index)}<li>
                <a href="/events/{one.event}"
                  >{sayQuantity(one.quantity)} {one.product}{one.number ? ` ${one.number}` : ''}</a
                > <span class="small soft">{one.reason}</span>
              </li>{/each}
          </ul>
          <AndMore shown={5} total={scrapped.length} />
        </section>{/if}
      {#each shelf as { component, marks } (component.product)}
        {@const first = component.marking === 'lot' ? 3 : 4}
        {@const numbered = marks.filter((mark) => mark.kind !== 'bulk')}
        <section>
          <h2>{component.product} {component.name}</h2>
          <p class="small soft">
            {sayAmount(component.quantity, component.unit)} per {component.per === 'unit'
              ? 'unit'
              : 'batch'}{component.follow === 'drawn'
              ? ', drawn by itself'
              : component.follow === 'batch'
                ? ', named for the batch'
                : ''} · {sayAmount(onHand[component.product] ?? '0', component.unit)} on hand
          </p>
          <ul class="shelf">
            {#each numbered.slice(0, first) as one (`${one.id} ${one.place}`)}
              <li>
                <Tag
                  kind={one.kind}
                  number={one.number}
                  under="{one.kind === 'serial'
                    ? ''
                    : `${sayAmount(one.quantity, component.unit)} · `}{one.place}"
                  state={one.state}
                  expired={one.expires && one.expires < today ? 'expired' : undefined}
                  href="/marks/{one.id}"
                />
              </li>
            {/each}
          </ul>
          <AndMore shown={first} total={numbered.length} />
        </section>
      {/each}
      <OrderBookings {order} />
    </SheetMargin>
  {/snippet}

  {#snippet tally()}
    {#if !work.booked && mayBook}
      <Tally
        {marked}
        of={line.left}
        {toGo}
        what={perUnit ? 'units numbered' : `${line.unit} in the batch`}
        faults={work.faults.length}
        onnext={nextFault}
        kept={work.keptAt}
        keeping={work.keeping}
        busy={work.booking}
        action={unnamed > 0
          ? `Book ${sayQuantity(marked)}, ${count(unnamed, 'part')} unnamed`
          : `Book ${sayQuantity(marked)} built`}
        disabled={built === null || work.booking}
        why={built === null ? 'Give a number first.' : ''}
        onbook={bookIt}
      />
    {:else}<span class="soft small"
        >{work.booked
          ? 'Booked. The ledger has it.'
          : `${amount(line.left)} to go on this order.`}</span
      >{/if}
  {/snippet}
</Working>

{#if naming}<NameOutputs
    order={order.number}
    product={line.product}
    kind={perUnit ? 'serial' : 'lot'}
    needsLot={line.marking === 'serial-in-lot'}
    hasScheme={perUnit ? line.numbersSerials : line.numbersLots}
    toGo={perUnit ? Number(line.left) : 1}
    {outputs}
    onclose={() => (naming = false)}
    ondone={(named) => {
      outputs = named;
      if (!perUnit && !lot) lot = named.find((one) => one.mark === null)?.number ?? '';
      void refresh();
    }}
  />{/if}
{#if scrapping}<ScrapDialog
    order={order.number}
    products={[
      ...components.map(({ product, name, unit, marking }) => ({ product, name, unit, marking })),
      { product: line.product, name: line.name, unit: line.unit, marking: line.marking }
    ]}
    {places}
    {place}
    onclose={() => (scrapping = false)}
    ondone={() => {
      scrapping = false;
      void refresh();
    }}
  />{/if}

<style>
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    align-items: center;
    gap: 8px 16px;
    padding: 10px 18px;
    border-bottom: 1px solid var(--line);
    min-height: 58px;
  }
  .name {
    font-weight: 400;
  }
  .inline {
    grid-auto-flow: column;
    align-items: center;
    gap: 6px;
  }
  .inline .field {
    height: 34px;
    font-size: 14px;
    max-width: 220px;
  }
  .bar {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 18px;
    padding: 8px 18px;
    border-bottom: 1px solid #ebe5da;
  }
  .links {
    margin-left: auto;
    display: inline-flex;
    flex-wrap: wrap;
    gap: 4px 10px;
    font-size: 14px;
  }
  .link {
    border: 0;
    background: none;
    padding: 4px 0;
    color: var(--brass);
    text-decoration: underline;
    cursor: pointer;
    font-size: 14px;
  }
  .links a {
    padding: 4px 0;
  }
  .tools {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 10px;
    align-items: end;
    padding: 10px 18px 8px;
  }
  .tools .hint {
    align-self: center;
  }
  .amount {
    width: 110px;
  }
  .short {
    margin: 8px 18px 0;
  }
  .hints {
    margin: 8px 18px 0;
    padding: 8px 12px;
    background: var(--slate-pale);
    font-size: 14px;
  }
  .complete {
    padding: 20px 18px;
    color: var(--ink-soft);
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 18px;
    padding: 8px 18px;
    border-top: 1px solid var(--line);
    background: var(--paper);
  }
  .foot b {
    color: #6a4a05;
  }
  .shelf {
    display: grid;
    gap: 6px;
    margin-top: 4px;
  }
  .scrapped li {
    padding: 2px 0;
    font-size: 14px;
  }
  @media (max-width: 1400px) {
    .name {
      display: none;
    }
  }
  @media (max-width: 700px) {
    .hint {
      display: none;
    }
  }
</style>
