<!-- The sheet of a work order: finished serials down with their components across, or a batch with what went into it. -->
<script lang="ts">
  import { onMount, tick, untrack, type Snippet } from 'svelte';
  import { soonestFirst } from '../../core/allocation/fefo';
  import { sayDistance } from '../../core/calendar/say-day';
  import type { Marking } from '../../core/ledger/snapshot';
  import { draftNumbers } from '../../core/marking/draft-numbers';
  import { continueNumbers } from '../../core/numbers/continue';
  import { totalOf } from '../../core/quantity/quantity';
  import { scanTarget } from '../frame/scan-target.svelte';
  import Tag from '../mark/Tag.svelte';
  import { count, sayQuantity } from '../say';
  import Working from '../Working.svelte';
  import BookedPanel from './BookedPanel.svelte';
  import { allot } from './allot';
  import { BookingSheet } from './booking-sheet.svelte';
  import { batchGroup, batchRows, lotsForNextUnit, outputColumns, slotsOf, unitColumns, unitGroups, type Component } from './build-rows';
  import type { MarkingPlan } from '../../core/marking/plan';
  import type { Available } from './LineSheet.svelte';
  import type { Column, Row, RowVerdict } from './grid';
  import NumberGrid from './NumberGrid.svelte';
  import ReasonPanel from './ReasonPanel.svelte';
  import { reasonsGiven } from './reasons';
  import Refused from './Refused.svelte';
  import { rowMessage } from './row-message';
  import SheetMargin from './SheetMargin.svelte';
  import Tally from './Tally.svelte';

  interface Body { units: Row[]; batch: Row[]; lot: string; made: string; place: string; born: Row; reasons: Record<string, string> }
  interface Props {
    order: { number: string; state: string; due: string; place: string | null };
    line: { product: string; name: string; unit: string; marking: Marking; quantity: string; done: string; left: string; numbersLots: boolean; numbersSerials: boolean; plan: MarkingPlan };
    components: readonly Component[];
    places: readonly { code: string; name: string; kind: string; siteName: string }[];
    available: Record<string, readonly Available[]>;
    draft: { body: unknown; keptAt: string | null; others: readonly string[] };
    today: string;
    mayBook: boolean;
    next: string | null;
    list: Snippet;
  }
  let { order, line, components, places, available, draft, today, mayBook, next, list }: Props = $props();

  const kept = untrack(() => draft.body) as (Partial<Body> & { key?: string }) | null;
  const perUnit = untrack(() => line.marking.startsWith('serial'));
  let units = $state.raw<Row[]>(kept?.units ?? []);
  let lot = $state(kept?.lot ?? '');
  let made = $state(kept?.made ?? untrack(() => (line.left === '0' ? '' : line.left)));
  let batch = $state.raw<Row[]>(kept?.batch ?? untrack(() => (perUnit || line.left === '0' ? [] : batchRows(components, line.left, available, today).rows)));
  let place = $state(kept?.place ?? untrack(() => order.place ?? places.find((one) => one.kind === 'line')?.code ?? places[0]?.code ?? ''));
  /** Dates and facts of the batch made; those of units stand in their rows. */
  let born = $state.raw<Row>(kept?.born ?? {});
  let reasons = $state.raw<Record<string, string>>(kept?.reasons ?? {});
  let said = $state('');
  let focused = $state(0);
  let grid = $state<ReturnType<typeof NumberGrid>>();

  const asked = untrack(() => outputColumns(line.plan));
  const slots = untrack(() => slotsOf(components));
  const columns = untrack((): Column[] => (perUnit ? [...unitColumns(line.product, line.marking, slots), ...asked] : [
    { key: 'product', label: 'Component', kind: 'number' }, { key: 'number', label: 'Lot or serial', kind: 'number' }, { key: 'quantity', label: 'Quantity', kind: 'quantity', width: '120px' }
  ]));

  const work = untrack(() => new BookingSheet<Body>({
    kind: 'builds', sheet: `build ${order.number}`, readonly: !mayBook,
    body: () => ({ units, batch, lot, made, place, born, reasons }), numbers: () => draftNumbers(units.flatMap((row) => [{ product: line.product, serial: row.serial }, ...slots.filter((slot) => slot.serial).map((slot) => ({ product: slot.component.product, serial: row[slot.key] }))])), request: () => built?.request ?? null, kept: { key: kept?.key, keptAt: kept ? draft.keptAt : null }
  }));

  const built = $derived.by(() => {
    const shared = { document: order.number, place, ...reasonsGiven(reasons) };
    if (perUnit) {
      const { groups, rowOf, missing } = unitGroups(line.product, components, units, asked);
      return groups.length === 0 ? null : { rowOf, missing, request: { ...shared, groups } };
    }
    if (made.trim() === '' || (line.marking === 'lot' && lot.trim() === '')) return null;
    const { group, rowOf } = batchGroup(line.product, lot, made, components, batch, born, asked);
    return { rowOf, missing: new Map<number, string[]>(), request: { ...shared, groups: [group] } };
  });

  const placed = $derived.by(() => {
    const verdicts = new Map<number, RowVerdict & { full: string; slot?: string }>();
    const loose: typeof work.faults[number][] = [];
    if (work.judged && built) for (const row of built.rowOf) {
      const missing = built.missing.get(row);
      verdicts.set(row, missing ? { tone: 'reason', text: `${missing.join(', ')} not named`, full: `Without ${missing.join(', ')} this unit can be built, but no trace will ever find what is missing. Scan it now if it is there.` } : { tone: 'good', text: perUnit ? 'complete' : 'there', full: '' });
    }
    for (const note of work.notes) if (note.path !== 'document') loose.push({ ...note, code: 'note' });
    for (const fault of work.faults) {
      const [, group, side, index] = /^groups\[(\d+)\]\.(outputs|inputs)\[(\d+)\]/.exec(fault.path) ?? [];
      const row = group === undefined || !built ? undefined : perUnit ? built.rowOf[Number(group)] : side === 'inputs' ? built.rowOf[Number(index)] : undefined;
      if (row === undefined) loose.push(fault);
      else if (verdicts.get(row)?.tone !== 'stop') verdicts.set(row, { tone: fault.answer === 'reason' ? 'reason' : 'stop', text: rowMessage(fault.message), full: fault.message });
    }
    return { verdicts, loose };
  });
  const faults = $derived(placed.loose.filter((fault) => fault.code !== 'note'));
  const hints = $derived(placed.loose.filter((fault) => fault.code === 'note'));
  const marked = $derived(perUnit ? String(units.filter((row) => row.serial?.trim()).length) : built ? made.trim() : '0');
  const toGo = $derived(String(Math.max(0, Number(line.left) - (Number(marked) || 0))));
  const unnamed = $derived(built ? [...built.missing.values()].reduce((sum, list) => sum + list.length, 0) : 0);
  const shortages = $derived(perUnit ? batchRows(components, toGo, available, today).short : batchRows(components, made, available, today).short);

  /** Serial components not yet on the sheet, to scan or to tap. */
  const usedSerials = $derived(new Set(units.flatMap((row) => slots.filter((slot) => slot.serial).map((slot) => row[slot.key]?.trim().toUpperCase() ?? ''))));
  const shelf = $derived(components.map((component) => ({ component, marks: [...(available[component.product] ?? [])].sort(soonestFirst).filter((one) => !usedSerials.has(one.number.toUpperCase())) })));

  function change(rows: Row[]): void {
    if (perUnit) units = rows;
    else batch = rows;
    work.changed();
  }

  const freshUnit = (index: number): Row => (perUnit ? lotsForNextUnit(slots, units.slice(0, index), available, today) : {});

  /** A scanned part goes to its position on the unit in hand, a new serial begins the next unit. */
  function takeScan(text: string): void {
    const key = text.trim().toUpperCase();
    if (!perUnit) return;
    const product = Object.entries(available).find(([, marks]) => marks.some((mark) => mark.number.toUpperCase() === key))?.[0];
    const row = units[focused]?.serial?.trim() ? focused : units.findLastIndex((unit) => unit.serial?.trim());
    const slot = slots.find((one) => one.component.product === product && (!one.serial || !units[row]?.[one.key]?.trim()));
    if (product && slot && row >= 0) change(units.with(row, { ...units[row], [slot.key]: text }));
    else if (!product) {
      const at = units.findIndex((unit) => !unit.serial?.trim());
      const where = at >= 0 ? at : units.length;
      const next = units.slice();
      next[where] = { ...freshUnit(where), ...next[where], serial: text };
      focused = where;
      change(next);
    }
  }

  const lastUnit = (): Row | undefined => units.findLast((row) => row.serial?.trim());

  /** Units after those that have a serial, in the lot of the last, their component lots filled in. */
  function addUnits(serials: readonly string[]): void {
    const lot = lastUnit()?.lot;
    const rows = units.filter((row) => row.serial?.trim());
    for (const serial of serials) rows.push({ ...(lot ? { lot } : {}), ...lotsForNextUnit(slots, rows, available, today), serial });
    change(rows);
  }

  function numberOn(): void {
    const last = lastUnit();
    if (last) addUnits(continueNumbers(last.serial!, Math.min(5000, Number(toGo))));
  }

  /** New numbers of the product's scheme for all units still to go, or for the lot made. */
  async function makeNumbers(): Promise<void> {
    const block = await allot(line.product, perUnit ? 'serial' : 'lot', perUnit ? Number(toGo) : 1, place);
    if (!block.ok) { work.refusal = block.refusal; return; }
    if (perUnit) addUnits(block.numbers);
    else { lot = block.numbers[0]!; work.changed(); }
  }

  /** Fills every empty serial position from what is on hand, first expired first. */
  function fillParts(): void {
    const free = new Map(shelf.map(({ component, marks }) => [component.product, marks.filter((mark) => mark.state === 'usable' && (mark.expires === null || mark.expires >= today)).map((mark) => mark.number)]));
    change(units.map((row) => {
      if (!row.serial?.trim()) return row;
      const filled = { ...row };
      for (const slot of slots) if (slot.serial && !filled[slot.key]?.trim()) { const part = free.get(slot.component.product)?.shift(); if (part) filled[slot.key] = part; }
      return filled;
    }));
  }

  function refill(): void {
    batch = batchRows(components, made, available, today).rows;
    work.changed();
  }

  async function nextFault(): Promise<void> {
    const bad = [...placed.verdicts].filter(([, verdict]) => verdict.tone === 'stop').map(([row]) => row).sort((a, b) => a - b);
    const row = bad.find((one) => one > focused) ?? bad[0];
    if (row !== undefined) { await tick(); void grid?.focusCell(row); }
  }

  async function bookIt(): Promise<void> {
    if (!(await work.book())) void nextFault();
  }

  onMount(() => {
    if (kept) work.judgeSoon();
    if (mayBook) scanTarget.current = { offer: (text) => (!work.booked && perUnit && !/^(PO|WO|SO)-/i.test(text) ? `Put ${text} on this sheet` : null), take: takeScan };
    const drop = work.keys([{ key: 'Ctrl+Enter', says: 'Book what stands here', act: bookIt }, { key: 'n', says: 'next fault', act: nextFault }]);
    if (mayBook && perUnit && line.left !== '0' && window.innerWidth > 700) void grid?.focusCell(units.length);
    return () => { scanTarget.current = null; drop(); };
  });
</script>

<Working {list}>
  {#snippet sheet()}
    {#if work.booked}
      <BookedPanel booked={work.booked} verb="Built on" next={next ? { href: next, says: `Next: ${decodeURIComponent(next.split('/').at(-1)!)}` } : null} onagain={toGo === '0' ? null : () => location.reload()} />
    {:else}
      <div class="head">
        <h1><span class="number">{order.number}</span> · {sayQuantity(line.quantity)} {line.product} <span class="name">{line.name}</span></h1>
        <label class="stack inline">at
          <select class="field" bind:value={place} onchange={() => work.changed()} disabled={!mayBook}>
            {#each places as one (one.code)}<option value={one.code}>{one.siteName}, {one.name}</option>{/each}
          </select>
        </label>
      </div>
      <Refused refusal={work.refusal} {faults} />
      <ReasonPanel faults={work.faults} {reasons} onchange={(given) => { reasons = given; work.changed(); }} />
      {#if hints.length > 0}<div class="hints">{#each hints as hint, index (index)}<p>{hint.message}</p>{/each}</div>{/if}
      {#if components.length === 0}<p class="complete">No components are set up for {line.product}. <a href="/setup/products/{encodeURIComponent(line.product)}">Say what one takes</a>, or book without: it will be a loose end.</p>{/if}
      {#if line.left === '0' && units.length === 0 && !mayBook}
        <p class="complete">Complete: {sayQuantity(line.done)} of {sayQuantity(line.quantity)} built.</p>
      {:else if mayBook}
        {#if shortages.length > 0}<p class="short"><b>Short for what is to go:</b> {shortages.map((row) => `${sayQuantity(row.short)} ${row.unit} of ${row.product}`).join(', ')}.</p>{/if}
        <div class="tools">
          {#if perUnit}
            {#if line.numbersSerials}<button class="act" onclick={makeNumbers} disabled={toGo === '0'}>Make numbers</button>{/if}
            <button class="act" onclick={numberOn} disabled={toGo === '0' || !units.some((row) => row.serial?.trim())}>Number on to {sayQuantity(line.left)}</button>
            {#if slots.some((slot) => slot.serial)}<button class="act" onclick={fillParts} disabled={!units.some((row) => row.serial?.trim())}>Fill parts in order</button>{/if}
            {#if units.length > 0}<button class="act quiet" onclick={() => change([])}>Clear sheet</button>{/if}
            <span class="small soft hint">scan the unit, then its parts</span>
          {:else}
            {#if line.marking === 'lot'}<label class="stack">made lot<input class="field number" bind:value={lot} oninput={() => work.changed()} maxlength="60" aria-label="Lot made" /></label>{/if}
            {#if line.numbersLots}<button class="act low" onclick={makeNumbers}>Make lot number</button>{/if}
            <label class="stack">made, {line.unit}<input class="field number amount" bind:value={made} oninput={() => work.changed()} inputmode="decimal" aria-label="Quantity made" /></label>
            {#each asked as column (column.key)}<label class="stack">{column.label.toLowerCase()}{#if column.choices}<select class="field" value={born[column.key] ?? ''} onchange={(event) => { born = { ...born, [column.key]: event.currentTarget.value }; work.changed(); }}><option value=""></option>{#each column.choices as choice (choice)}<option value={choice}>{choice}</option>{/each}</select>{:else}<input class="field number amount" value={born[column.key] ?? ''} placeholder={column.kind === 'date' ? 'yyyy-mm-dd' : ''} oninput={(event) => { born = { ...born, [column.key]: event.currentTarget.value }; work.changed(); }} />{/if}</label>{/each}
            <button class="act low" onclick={refill}>Draw first expired for {made || '0'}</button>
          {/if}
        </div>
        {#if said}<p class="short" role="alert">{said}</p>{/if}
        <NumberGrid bind:this={grid} bind:focused onsay={(message) => (said = message)} {columns} rows={perUnit ? units : batch} verdicts={placed.verdicts} onchange={change} fresh={freshUnit} label={perUnit ? `Units of ${line.product} and their components` : `What went into the batch of ${line.product}`} />
      {:else}
        <p class="complete">Your role reads this order; it does not book it.</p>
      {/if}
    {/if}
  {/snippet}

  {#snippet margin()}
    <SheetMargin others={work.booked ? [] : draft.others} row={focused} verdict={placed.verdicts.get(focused)} title="{line.product} {line.name}" facts={[
      { says: 'ordered', value: sayQuantity(line.quantity), number: true }, { says: 'built', value: sayQuantity(line.done), number: true }, { says: 'due', value: sayDistance(order.due, today) }
    ]}>
      {#each shelf as { component, marks } (component.product)}
        <section>
          <h2>{component.product} {component.name}</h2>
          <p class="small soft">{sayQuantity(component.quantity)} {component.unit === 'each' ? '' : component.unit} per unit · {sayQuantity(totalOf(marks.map((mark) => mark.quantity)))} on hand</p>
          <ul class="shelf">
            {#each marks.filter((mark) => mark.kind !== 'bulk').slice(0, component.marking === 'lot' ? 3 : 4) as one (`${one.id} ${one.place}`)}
              <li><Tag kind={one.kind} number={one.number} under="{one.kind === 'serial' ? '' : `${sayQuantity(one.quantity)} · `}{one.place}" state={one.state} expired={one.expires && one.expires < today ? 'expired' : undefined} href="/marks/{one.id}" /></li>
            {/each}
          </ul>
        </section>
      {/each}
    </SheetMargin>
  {/snippet}

  {#snippet tally()}
    {#if !work.booked && mayBook}
      <Tally {marked} of={line.left} {toGo} what={perUnit ? 'units numbered' : `${line.unit} in the batch`} faults={work.faults.length} onnext={nextFault} kept={work.keptAt} keeping={work.keeping} busy={work.booking}
        action={unnamed > 0 ? `Book ${sayQuantity(marked)}, ${count(unnamed, 'part')} unnamed` : `Book ${sayQuantity(marked)} built`} disabled={built === null || work.booking} why={built === null ? 'Give a number first.' : ''} onbook={bookIt} />
    {:else}<span class="soft small">{work.booked ? 'Booked. The ledger has it.' : `${sayQuantity(line.left)} to go on this order.`}</span>{/if}
  {/snippet}
</Working>

<style>
  .head { display: flex; flex-wrap: wrap; justify-content: space-between; align-items: center; gap: 8px 16px; padding: 10px 18px; border-bottom: 1px solid var(--line); min-height: 58px; }
  .name { font-weight: 400; }
  .inline { grid-auto-flow: column; align-items: center; gap: 6px; }
  .inline .field { height: 34px; font-size: 14px; max-width: 220px; }
  .tools { display: flex; flex-wrap: wrap; gap: 8px 10px; align-items: end; padding: 12px 18px 8px; }
  .tools .hint { margin-left: auto; align-self: center; }
  .amount { width: 110px; }
  .short { margin: 12px 18px 0; padding: 8px 12px; background: var(--amber); font-size: 14px; }
  .hints { margin: 8px 18px 0; padding: 8px 12px; background: var(--slate-pale); font-size: 14px; }
  .complete { padding: 20px 18px; color: var(--ink-soft); }
  .shelf { display: grid; gap: 6px; margin-top: 4px; }
  @media (max-width: 700px) { .hint { display: none; } }
</style>
