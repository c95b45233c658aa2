<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { isDay } from '$lib/core/calendar/day.ts';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import BookedPanel from '$lib/ui/bench/BookedPanel.svelte';
  import { BookingSheet } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import type { Row } from '$lib/ui/bench/grid.ts';
  import NumberGrid from '$lib/ui/bench/NumberGrid.svelte';
  import Refused from '$lib/ui/bench/Refused.svelte';
  import Tally from '$lib/ui/bench/Tally.svelte';
  import {
    filledRows,
    MORE_OPENING_COLUMNS,
    OPENING_COLUMNS,
    openingLines,
    openingVerdicts,
    rowOfPath
  } from '$lib/ui/stock/opening-rows.ts';
  import Working from '$lib/ui/parts/Working.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  interface Kept {
    rows: Row[];
    document: string;
    since: string;
    key?: string;
  }

  let { data } = $props();
  const kept = untrack(() => data.draft.body as Kept | null);
  let rows = $state.raw<Row[]>(kept?.rows ?? []);
  let document = $state(kept?.document ?? untrack(() => `OPENING-${data.today}`));
  let since = $state(kept?.since ?? '');
  let focused = $state(0);
  let said = $state('');
  let all = $state(kept?.rows.some((row) => MORE_OPENING_COLUMNS.some(({ key }) => row[key])));
  const going = new GoingOn();
  let grid: NumberGrid | undefined = $state();

  const columns = $derived(all ? [...OPENING_COLUMNS, ...MORE_OPENING_COLUMNS] : OPENING_COLUMNS);
  /** The day it lies here since; empty for today, null where what is typed is no day. */
  const sinceDay = $derived(since === '' || isDay(since) ? since : null);
  const sinceHolds = $derived(sinceDay !== null && sinceDay <= data.today);
  const filled = $derived(filledRows(rows));
  const work = new BookingSheet<Kept>({
    kind: 'openings',
    sheet: 'opening',
    body: () => ({ rows, document, since }),
    request: () =>
      filled.length === 0
        ? null
        : {
            document,
            ...(sinceHolds && sinceDay && sinceDay < data.today
              ? { at: `${sinceDay}T12:00:00Z` }
              : {}),
            lines: openingLines(rows),
            ...going.given
          },
    kept: untrack(() => ({ ...(kept?.key ? { key: kept.key } : {}), keptAt: data.draft.keptAt })),
    readonly: untrack(() => !data.mayBook)
  });
  const verdicts = $derived(openingVerdicts(rows, work.faults, work.notes, work.judged));
  const elsewhere = $derived(
    work.faults.filter((fault) => rowOfPath(filled, fault.path) === null && !fault.answer)
  );
  const here = $derived(
    [...work.faults, ...work.notes].filter((one) => rowOfPath(filled, one.path) === focused)
  );

  function change(next: Row[]): void {
    rows = next;
    if (next.some((row) => MORE_OPENING_COLUMNS.some(({ key }) => row[key]))) all = true;
    work.changed();
  }
  function nextFault(): void {
    const at = work.faults
      .map((fault) => rowOfPath(filled, fault.path))
      .filter((row) => row !== null);
    const next = at.find((row) => row > focused) ?? at[0];
    if (next !== undefined) void grid?.focusCell(next);
  }
  async function bookIt(): Promise<void> {
    if (!sinceHolds) return;
    if (await work.book()) going.clear();
    else nextFault();
  }
  function again(): void {
    work.booked = null;
    rows = [];
  }
  onMount(() => {
    if (rows.length > 0) work.judgeSoon();
    return work.keys([
      { key: 'Ctrl+Enter', says: 'Book it in', act: () => void bookIt() },
      { key: 'n', says: 'Next fault', act: nextFault }
    ]);
  });
</script>

<svelte:head><title>Opening stock · Earmark</title></svelte:head>
<Working {sheet} {margin} {tally} />

{#snippet sheet()}
  {#if work.booked}
    <BookedPanel
      booked={work.booked}
      verb="Brought in"
      next={{ href: '/on-hand', says: 'On hand' }}
      onagain={again}
      says="More opening stock"
    />
  {:else}
    <div class="head">
      <h1>Opening stock</h1>
      <p class="soft">
        What lay here before Earmark: no order, no supplier, kept where it lies. Its trace begins
        with it.
      </p>
      <div class="fields">
        <label class="stack"
          >document<input
            class="field number"
            bind:value={document}
            maxlength="60"
            disabled={!data.mayBook}
            oninput={() => work.changed()}
          /></label
        >
        <DateField
          label="lies here since"
          placeholder="today"
          max={data.today}
          disabled={!data.mayBook}
          bind:value={since}
          onday={() => work.changed()}
        />
        {#if data.mayBook}<a class="act" href="/setup/files?kind=openings">From a file …</a>{/if}
        {#if !all}<button class="act quiet" onclick={() => (all = true)}
            >Unit, made, retest, their number</button
          >{/if}
      </div>
    </div>
    {#if data.mayBook}
      <Refused refusal={work.refusal} faults={elsewhere} />
      <GoOn {document} faults={work.faults} {going} again={bookIt} />
      {#if said}<p class="said" role="status">{said}</p>{/if}
      {#if !sinceHolds}<p class="said stop" role="alert">
          “{since}” is no day up to today. Write it as day, month, year, or leave it empty for
          today.
        </p>{/if}
      <NumberGrid
        bind:this={grid}
        bind:focused
        {columns}
        hidden={all ? [] : MORE_OPENING_COLUMNS}
        {rows}
        {verdicts}
        onchange={change}
        label="Opening stock"
        onsay={(message) => (said = message)}
      />
    {:else}
      <p class="said">Your role reads this; opening stock is brought in by a coordinator.</p>
    {/if}
  {/if}
{/snippet}

{#snippet margin()}
  <div class="margin">
    {#if here.length > 0}
      <h2>Row {focused + 1}</h2>
      {#each here as one, index (index)}<p class="small">{one.message}</p>{/each}
    {/if}
    <h2>How it is read</h2>
    <ul class="small">
      <li>A row for each lot or serial at each place; what has no number, by quantity.</li>
      <li>Paste a table from a spreadsheet into any cell; headings say what is what.</li>
      <li>
        A cost that is not known stays empty: it is shown as not known, and never taken for nothing.
      </li>
      <li>Expiry is not computed from today. Give it, or the day it was made.</li>
      <li>Expired or not: what lies there is told as it is.</li>
    </ul>
    <p class="small soft">
      Many places and dates at once come in better <a href="/setup/files?kind=openings"
        >from a file</a
      >.
    </p>
  </div>
{/snippet}

{#snippet tally()}
  {#if work.booked}
    <span class="soft small">Booked. The ledger has it.</span>
  {:else}
    <Tally
      marked={String(filled.length - new Set(work.faults.map((one) => one.path)).size)}
      of={String(filled.length)}
      toGo={String(new Set(work.faults.map((one) => one.path)).size)}
      what="rows hold"
      faults={work.faults.length}
      onnext={nextFault}
      kept={work.keptAt}
      keeping={work.keeping}
      busy={work.booking}
      action="Bring in {count(filled.length, 'row')}"
      disabled={filled.length === 0 || work.booking || !data.mayBook || !sinceHolds}
      why={filled.length === 0 ? 'Type or paste what lies here.' : ''}
      onbook={bookIt}
    />
  {/if}
{/snippet}

<style>
  .head {
    padding: 16px 18px 8px;
    display: grid;
    gap: 8px;
  }
  .fields {
    display: flex;
    gap: 14px;
    align-items: end;
    flex-wrap: wrap;
  }
  .said {
    padding: 6px 18px;
  }
  .margin {
    display: grid;
    gap: 10px;
  }
  .margin ul {
    display: grid;
    gap: 6px;
    padding-left: 16px;
    list-style: square;
  }
</style>
