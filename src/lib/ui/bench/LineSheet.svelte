<!-- The sheet of a purchase or sales order: its lines as cards, the number grid of one of them, the tally. -->
<script lang="ts">
  import { onMount, tick, untrack } from 'svelte';
  import { firstExpiredFirst, soonestFirst, type Candidate } from '../../core/allocation/fefo';
  import { sayDay, sayDistance } from '../../core/calendar/say-day';
  import { looksLikeSymbol, readElementString } from '../../core/gs1/element-string';
  import { continueNumbers } from '../../core/numbers/continue';
  import { quantity, totalOf } from '../../core/quantity/quantity';
  import { scanTarget } from '../frame/scan-target.svelte';
  import Tag from '../mark/Tag.svelte';
  import { sayQuantity } from '../say';
  import Working from '../Working.svelte';
  import type { Snippet } from 'svelte';
  import BookedPanel from './BookedPanel.svelte';
  import { allot } from './allot';
  import { BookingSheet } from './booking-sheet.svelte';
  import { columnsFor, isBlank, lineRequest, markedQuantity, stillToMark, type Mode, type SheetLine } from './line-rows';
  import { inheritedFrom, type Row, type RowVerdict } from './grid';
  import NumberGrid from './NumberGrid.svelte';
  import Refused from './Refused.svelte';
  import { rowMessage } from './row-message';
  import SheetMargin from './SheetMargin.svelte';
  import Tally from './Tally.svelte';

  export interface Available extends Candidate { kind: 'lot' | 'serial' | 'bulk'; place: string }
  interface Body { lines: Record<string, Row[]>; place: string; reference: string }
  interface Props {
    mode: Mode;
    order: { number: string; partner: string | null; partnerName: string | null; state: string; due: string; place: string | null; lines: readonly SheetLine[] };
    places: readonly { code: string; name: string; kind: string; siteName: string }[];
    available: Record<string, readonly Available[]>;
    draft: { body: unknown; keptAt: string | null; others: readonly string[] };
    today: string;
    mayBook: boolean;
    next: string | null;
    list: Snippet;
  }
  let { mode, order, places, available, draft, today, mayBook, next, list }: Props = $props();

  const kept = untrack(() => draft.body) as (Partial<Body> & { key?: string }) | null;
  const usualPlace = untrack(() => order.place ?? places.find((place) => place.kind === (mode === 'receive' ? 'dock' : 'dispatch'))?.code ?? '');
  let rows = $state.raw<Record<string, Row[]>>(kept?.lines ?? {});
  let place = $state(kept?.place ?? untrack(() => (mode === 'receive' ? usualPlace : '')));
  let reference = $state(kept?.reference ?? '');
  let at = $state(untrack(() => Math.max(0, order.lines.findIndex((line) => line.left !== '0'))));
  let focused = $state(0);
  let grid = $state<ReturnType<typeof NumberGrid>>();

  const line = $derived(order.lines[at]!);
  const lineRows = $derived(rows[line.line] ?? []);
  const columns = $derived(columnsFor(line, mode));

  const work = untrack(() => new BookingSheet<Body>({
    kind: mode === 'receive' ? 'receipts' : 'shipments', sheet: `${mode} ${order.number}`, readonly: !mayBook,
    body: () => ({ lines: rows, place, reference }), request: () => built?.request ?? null,
    kept: { key: kept?.key, keptAt: kept ? draft.keptAt : null }
  }));

  /** The booking as it stands, and for each of its lines the sheet's line and rows. */
  const built = $derived.by(() => {
    const parts = order.lines.flatMap((one, index) => {
      const part = lineRequest(rows[one.line] ?? [], one, mode);
      return part ? [{ index, one, ...part }] : [];
    });
    if (parts.length === 0) return null;
    const lines = parts.map(({ one, marks, quantity: amount }) => ({ product: one.product, ...(place ? { place } : {}), quantity: amount, ...(marks.length > 0 ? { marks } : {}) }));
    const partner = mode === 'receive' ? { supplier: order.partner ?? '' } : { customer: order.partner ?? '' };
    return { parts, request: { document: order.number, ...partner, ...(reference.trim() ? { reference: reference.trim() } : {}), lines } };
  });

  /** Faults and notes by sheet line and row; what belongs to no row is told above the grid. */
  const placed = $derived.by(() => {
    const byLine = new Map<number, Map<number, RowVerdict & { full: string }>>();
    const loose: typeof work.faults[number][] = [];
    const put = (path: string, tone: RowVerdict['tone'], message: string): boolean => {
      const [, lineAt, markAt] = /^lines\[(\d+)\](?:\.marks\[(\d+)\])?/.exec(path) ?? [];
      const part = lineAt === undefined ? undefined : built?.parts[Number(lineAt)];
      if (!part) return false;
      const row = part.rowOf[markAt === undefined ? 0 : Number(markAt)] ?? 0;
      if (markAt === undefined && part.one.marking !== 'none') return false;
      if (!byLine.has(part.index)) byLine.set(part.index, new Map());
      byLine.get(part.index)!.set(row, { tone, text: rowMessage(message), full: message });
      return true;
    };
    if (work.judged && built) {
      for (const part of built.parts) byLine.set(part.index, new Map(part.rowOf.map((row) => [row, { tone: 'good' as const, text: mode === 'receive' ? 'new' : 'on hand', full: '' }])));
    }
    for (const note of work.notes) put(note.path, 'reason', note.message);
    for (const fault of work.faults) if (!put(fault.path, 'stop', fault.message)) loose.push(fault);
    return { byLine, loose };
  });
  const verdicts = $derived(placed.byLine.get(at) ?? new Map<number, RowVerdict & { full: string }>());
  const faultCount = $derived(work.faults.length);
  const marked = $derived(totalOf(order.lines.map((one) => markedQuantity(rows[one.line] ?? [], one))));
  const open = $derived(totalOf(order.lines.map((one) => one.left)));
  const toGo = $derived(totalOf(order.lines.map((one) => stillToMark(rows[one.line] ?? [], one))));
  const verb = untrack(() => (mode === 'receive' ? 'Book in' : 'Ship'));

  const shelf = $derived([...(available[line.product] ?? [])].sort(soonestFirst));
  const taken = $derived(new Set(lineRows.map((row) => (row.serial || row.lot || '').trim().toUpperCase())));

  function change(next: Row[]): void {
    rows = { ...rows, [line.line]: next };
    work.changed();
  }

  const fresh = (): Row => (line.marking === 'lot' && mode === 'receive' ? { quantity: stillToMark(lineRows, line) } : {});

  /** Puts a mark into the first empty row of the line. */
  function addRow(row: Row): void {
    const empty = lineRows.findIndex((one) => isBlank(one, line));
    const where = empty >= 0 ? empty : lineRows.length;
    const next = lineRows.slice();
    next[where] = { ...fresh(), ...inheritedFrom(columns, lineRows[where - 1]), ...row };
    change(next);
    void tick().then(() => grid?.focusCell(where + 1));
  }

  const keyColumn = $derived(line.marking === 'lot' ? 'lot' : 'serial');

  function takeScan(text: string): void {
    if (looksLikeSymbol(text)) {
      const reading = readElementString(text, today);
      if (reading.ok) {
        const { gtin, lot, serial, expires } = reading.symbol;
        const wanted = gtin === undefined ? at : order.lines.findIndex((one) => one.gtin === gtin);
        if (wanted >= 0) at = wanted;
        const allowed = new Set(columnsFor(order.lines[at]!, mode).map((column) => column.key));
        addRow(Object.fromEntries(Object.entries({ lot, serial, expires }).filter(([key, value]) => value !== undefined && allowed.has(key))) as Row);
        return;
      }
    }
    if (line.marking === 'none') return;
    addRow({ [keyColumn]: text, ...(mode === 'ship' && line.marking === 'lot' ? { quantity: fillFor(text) } : {}) });
  }

  const fillFor = (lot: string): string => {
    const there = shelf.find((one) => one.number.toUpperCase() === lot.trim().toUpperCase());
    const wanted = stillToMark(lineRows, line);
    return there && quantity(there.quantity).lt(wanted) ? there.quantity : wanted;
  };

  function offer(text: string): string | null {
    if (!mayBook || work.booked) return null;
    if (looksLikeSymbol(text)) {
      const reading = readElementString(text, today);
      const target = reading.ok && (reading.symbol.gtin === undefined ? line : order.lines.find((one) => one.gtin === reading.symbol.gtin));
      return target && (reading.symbol.lot ?? reading.symbol.serial) ? `Add to line ${target.product}` : null;
    }
    // A document's number typed here means the document.
    return line.marking === 'none' || /^(PO|WO|SO)-/i.test(text) ? null : `Add to line ${line.product}`;
  }

  /** Counts the last number on until the line is full. */
  function numberOn(): void {
    const last = lineRows.findLast((row) => row.serial?.trim());
    if (!last) { void grid?.focusCell(lineRows.length, 'serial'); return; }
    const more = continueNumbers(last.serial!, Number(stillToMark(lineRows, line)));
    const { serial: _, ...carried } = last;
    change([...lineRows.filter((row) => !isBlank(row, line)), ...more.map((serial) => ({ ...carried, serial }))]);
  }

  /** Fills the line with new numbers of the product's schemes: one lot, or a serial for each unit still to come (all in one new lot). */
  async function makeNumbers(): Promise<void> {
    const given = lineRows.filter((row) => !isBlank(row, line));
    const wanted = line.marking === 'lot' ? 1 : Number(stillToMark(lineRows, line));
    const lot = line.numbersLots ? await allot(line.product, 'lot', 1, place) : null;
    const serials = line.numbersSerials ? await allot(line.product, 'serial', wanted, place) : null;
    const refused = [lot, serials].find((block) => block && !block.ok);
    if (refused && !refused.ok) { work.refusal = refused.refusal; return; }
    const lots: Row = lot?.ok ? { lot: lot.numbers[0]! } : {};
    change([...given, ...(serials?.ok ? serials.numbers.map((serial) => ({ ...lots, serial })) : [{ ...fresh(), ...lots }])]);
  }

  function proposeShelf(): void {
    const proposal = firstExpiredFirst(shelf.filter((one) => !taken.has(one.number.toUpperCase())), quantity(stillToMark(lineRows, line)), today);
    change([...lineRows.filter((row) => !isBlank(row, line)), ...proposal.picks.map((pick): Row => (line.marking === 'lot' ? { lot: pick.number, quantity: pick.quantity } : { serial: pick.number }))]);
  }

  async function nextFault(): Promise<void> {
    const all = [...placed.byLine].flatMap(([index, map]) => [...map].filter(([, verdict]) => verdict.tone === 'stop').map(([row]) => ({ index, row }))).sort((a, b) => a.index - b.index || a.row - b.row);
    const after = all.find(({ index, row }) => index > at || (index === at && row > focused)) ?? all[0];
    if (!after) return;
    at = after.index;
    await tick();
    void grid?.focusCell(after.row, columnsFor(order.lines[at]!, mode)[0]!.key);
  }

  async function bookIt(): Promise<void> {
    if (!(await work.book())) void nextFault();
  }

  onMount(() => {
    if (kept) work.judgeSoon();
    if (mayBook) scanTarget.current = { offer, take: takeScan };
    const drop = work.keys([
      { key: 'Ctrl+Enter', says: `${verb} what stands here`, act: bookIt }, { key: 'n', says: 'next fault', act: nextFault },
      { key: 'l', says: 'next line of the order', act: () => (at = (at + 1) % order.lines.length) }
    ]);
    if (mayBook && line.left !== '0' && window.innerWidth > 700) void grid?.focusCell(lineRows.length);
    return () => { scanTarget.current = null; drop(); };
  });
</script>

<Working {list}>
  {#snippet sheet()}
    {#if work.booked}
      <BookedPanel booked={work.booked} verb={mode === 'receive' ? 'Booked in on' : 'Shipped on'} next={next ? { href: next, says: `Next: ${decodeURIComponent(next.split('/').at(-1)!)}` } : null}
        onagain={toGo === '0' ? null : () => location.reload()} />
    {:else}
      <div class="head">
        <h1><span class="number">{order.number}</span> · {order.partnerName}</h1>
        <div class="fields">
          <label class="stack">{mode === 'receive' ? 'into' : 'from'}
            <select class="field" bind:value={place} onchange={() => work.changed()} disabled={!mayBook}>
              {#if mode === 'ship'}<option value="">wherever it lies</option>{/if}
              {#each places as one (one.code)}<option value={one.code}>{one.siteName}, {one.name}</option>{/each}
            </select>
          </label>
          <label class="stack">{mode === 'receive' ? 'delivery note' : 'carrier’s number'}
            <input class="field number" bind:value={reference} oninput={() => work.changed()} maxlength="100" disabled={!mayBook} />
          </label>
        </div>
      </div>
      <div class="cards" role="tablist" aria-label="Lines of the order">
        {#each order.lines as one, index (one.line)}
          <button role="tab" aria-selected={index === at} class:bad={[...(placed.byLine.get(index)?.values() ?? [])].some((verdict) => verdict.tone === 'stop')} onclick={() => { at = index; focused = 0; }}>
            <span class="top"><b class="number">{one.product}</b> {one.name}</span>
            <span class="row"><span class="soft small">{one.marking === 'none' ? 'no number' : one.marking === 'serial-in-lot' ? 'serial in lot' : one.marking}</span>
              <b class="number">{#if one.left === '0'}<span class="good">{sayQuantity(one.quantity)} ✓</span>{:else}{sayQuantity(markedQuantity(rows[one.line] ?? [], one))} / {sayQuantity(one.left)}{/if}</b></span>
          </button>
        {/each}
      </div>
      <Refused refusal={work.refusal} faults={placed.loose} />
      {#if line.left === '0' && lineRows.length === 0}
        <p class="complete">{line.product} {line.name} is complete: {sayQuantity(line.done)} of {sayQuantity(line.quantity)} {line.unit} {mode === 'receive' ? 'received' : 'shipped'}.</p>
      {:else if mayBook}
        <div class="tools">
          {#if mode === 'ship' && line.marking !== 'none'}<button class="act" onclick={proposeShelf} disabled={stillToMark(lineRows, line) === '0'}>Take first expired</button>{/if}
          {#if mode === 'receive' && (line.numbersLots || line.numbersSerials)}<button class="act" onclick={makeNumbers} disabled={stillToMark(lineRows, line) === '0'}>Make numbers</button>{/if}
          {#if mode === 'receive' && line.marking.startsWith('serial')}<button class="act" onclick={numberOn} disabled={stillToMark(lineRows, line) === '0' || !lineRows.some((row) => row.serial?.trim())}>Number on to {sayQuantity(line.left)}</button>{/if}
          {#if line.marking === 'none'}<button class="act" onclick={() => change([{ quantity: line.left }])}>All {sayQuantity(line.left)} {line.unit}</button>{/if}
          {#if lineRows.length > 0}<button class="act quiet" onclick={() => change([])}>Clear line</button>{/if}
          <span class="small soft hint">type ↓ next row · paste a column · scan anywhere</span>
        </div>
        <!-- A grid of its own for each line: what one line takes back must not land on another. -->
        {#key line.line}
          <NumberGrid bind:this={grid} bind:focused {columns} rows={line.marking === 'none' ? [lineRows[0] ?? {}] : lineRows} {verdicts} onchange={change} {fresh} fixed={line.marking === 'none'} label="Numbers of {line.product} {line.name}" />
        {/key}
      {:else}
        <p class="complete">Your role reads this order; it does not book it.</p>
      {/if}
    {/if}
  {/snippet}

  {#snippet margin()}
    <SheetMargin others={work.booked ? [] : draft.others} row={focused} verdict={verdicts.get(focused)} title="{line.product} {line.name}" facts={[
      { says: 'ordered', value: sayQuantity(line.quantity), number: true }, { says: mode === 'receive' ? 'received' : 'shipped', value: sayQuantity(line.done), number: true },
      { says: 'on hand', value: sayQuantity(totalOf(shelf.map((one) => one.quantity))), number: true },
      ...(line.shelfLifeDays && mode === 'receive' ? [{ says: 'shelf life', value: `${line.shelfLifeDays} days` }] : []), { says: 'due', value: sayDistance(order.due, today) }
    ]}>
      <section>
        <h2>{mode === 'ship' ? 'To take, soonest expiry first' : 'On hand now'}</h2>
        <ul class="shelf">
          {#each shelf.slice(0, 14) as one (`${one.id} ${one.place}`)}
            {@const expired = one.expires !== null && one.expires < today}
            <li>
              <Tag kind={one.kind} number={one.kind === 'bulk' ? null : one.number} under="{one.kind === 'serial' ? '' : `${sayQuantity(one.quantity)} · `}{one.place}" state={one.state} expired={expired ? `expired ${sayDistance(one.expires!, today)}` : undefined} href="/marks/{one.id}" />
              {#if mode === 'ship' && mayBook && !expired && one.state === 'usable' && one.kind !== 'bulk' && !work.booked}
                <button class="take" disabled={taken.has(one.number.toUpperCase())} aria-label="Take {one.number}" onclick={() => addRow(line.marking === 'lot' ? { lot: one.number, quantity: fillFor(one.number) } : { serial: one.number })}>{taken.has(one.number.toUpperCase()) ? '✓' : '+'}</button>
              {:else if one.expires && !expired}<span class="small soft">{sayDay(one.expires)}</span>{/if}
            </li>
          {:else}<li class="soft small">Nothing of {line.product} is on hand.</li>{/each}
        </ul>
        {#if shelf.length > 14}<p class="small soft">and {shelf.length - 14} more, all under <a href="/on-hand?q={encodeURIComponent(line.product)}">On hand</a></p>{/if}
      </section>
    </SheetMargin>
  {/snippet}

  {#snippet tally()}
    {#if !work.booked && mayBook}
      <Tally {marked} of={open} {toGo} faults={faultCount} onnext={nextFault} kept={work.keptAt} keeping={work.keeping} busy={work.booking}
        action="{verb} {sayQuantity(marked)}" disabled={built === null || work.booking} why={built === null ? 'Give a number first.' : ''} onbook={bookIt} />
    {:else}
      <span class="soft small">{work.booked ? 'Booked. The ledger has it.' : `${sayQuantity(open)} to go on this order.`}</span>
    {/if}
  {/snippet}
</Working>

<style>
  .head { display: flex; flex-wrap: wrap; justify-content: space-between; align-items: center; gap: 8px 16px; padding: 10px 18px; border-bottom: 1px solid var(--line); }
  .fields { display: flex; gap: 12px; flex-wrap: wrap; }
  .fields .field { height: 34px; font-size: 14px; max-width: 200px; }
  .fields label { grid-auto-flow: column; align-items: center; gap: 6px; }
  .fields input { width: 110px; }
  .cards { display: flex; flex-wrap: wrap; gap: 10px; padding: 12px 18px 4px; }
  .cards button { min-width: 152px; display: grid; gap: 2px; text-align: left; border: 1px solid var(--line); border-bottom: 3px solid var(--line); background: var(--panel); padding: 7px 12px; cursor: pointer; }
  .cards button[aria-selected='true'] { border-color: var(--ink); border-bottom-color: var(--brass); }
  .cards button.bad { border-bottom-color: var(--rust); }
  .cards .top { font-size: 13.5px; }
  .cards .row { display: flex; justify-content: space-between; gap: 12px; align-items: baseline; }
  .tools { display: flex; flex-wrap: wrap; gap: 8px 10px; align-items: center; padding: 8px 18px; }
  .hint { margin-left: auto; }
  .complete { padding: 24px 18px; color: var(--ink-soft); }
  .shelf { display: grid; gap: 8px; margin-top: 6px; }
  .shelf li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 8px; align-items: center; }
  .take { width: 40px; height: 40px; border: 1px solid var(--brass); border-radius: 2px; background: var(--panel); color: var(--brass); font-size: 18px; font-weight: 600; cursor: pointer; }
  .take:disabled { border-color: var(--line); color: var(--sea); }
  @media (max-width: 700px) { .hint { display: none; } .cards { flex-wrap: nowrap; overflow-x: auto; } .cards button { flex: none; } }
</style>
