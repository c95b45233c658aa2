<script lang="ts">
  import { untrack } from 'svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { parseQuantity } from '$lib/core/quantity/quantity.ts';
  import { sayMoney } from '$lib/core/quantity/say-money.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import { saidOfParts } from '$lib/ui/stock/transferring.ts';
  import {
    revaluedLines,
    revaluedRows,
    worthOf,
    type RevaluedRow
  } from '$lib/ui/stock/revaluing.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const beginning = () => revaluedRows(data.marks);
  let rows = $state.raw<RevaluedRow[]>(untrack(beginning));
  let amount = $state('');
  let by = $state<'value' | 'quantity' | 'weight'>('value');
  let reason = $state('');
  let said = $state.raw<ReadonlyMap<number, string>>(new Map());
  let refused = $state.raw<string[]>([]);
  let done = $state<number | null>(null);
  let busy = $state(false);
  let key = newKey();
  const unsaved = askUnlessKept(() => [rows.map((row) => row.typed), amount, reason]);
  const asked = $derived(revaluedLines(rows));
  const worth = $derived(worthOf(rows));
  const ready = $derived((asked.lines.length > 0 || amount.trim() !== '') && reason.trim() !== '');
  const what = $derived(data.event ? `event ${data.event.id}` : (data.marks[0]?.number ?? ''));

  function type(at: number, typed: string): void {
    rows = rows.with(at, { ...rows[at]!, typed });
    [said, done] = [new Map(), null];
    key = newKey();
  }
  async function book(): Promise<void> {
    if (!ready || busy) return;
    busy = true;
    const document = `${data.event?.document ?? data.marks[0]?.number ?? data.marks[0]?.product}`;
    const reply = await send<{ event: { id: number } }>(
      'POST',
      '/api/v1/revaluations',
      {
        document,
        reason: reason.trim(),
        ...(data.event ? { receipt: data.event.id } : {}),
        lines: asked.lines,
        ...(amount.trim() ? { landed: { amount: amount.trim(), by } } : {})
      },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      const told = saidOfParts(asked, reply.refusal.errors);
      said = told.said;
      refused = told.said.size > 0 ? told.rest : messagesOf(reply.refusal);
      return;
    }
    [refused, said, done] = [[], new Map(), reply.body.event.id];
    unsaved.kept();
  }
  const nameOf = ({ marks }: RevaluedRow): string =>
    marks.length === 1 ? (marks[0]!.number ?? 'no number') : count(marks.length, 'serial');
</script>

<svelte:head><title>What it costs · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <h1>
    What it costs{#if data.event}: <span class="number">{data.event.document}</span>{/if}
  </h1>
  {#if data.event}<p class="soft">
      {data.event.kind}{data.event.partner ? ` from ${data.event.partner}` : ''}, {sayDay(
        data.event.day
      )}. What is told here is what it cost when it came: what was made of it since costs otherwise,
      too, and what had left is told apart.
    </p>{:else}<p class="soft">
      What one of it is worth from now on. To correct what it cost when it came in, open the event
      it came in by.
    </p>{/if}
  <WideTable of="what came in">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Lot or serial</th><th scope="col" class="right"
            >{data.event ? 'Came in' : 'Ours'}</th
          ><th scope="col" class="right">Cost of one{data.currency ? `, ${data.currency}` : ''}</th
          ><th scope="col" class="right">Comes to</th></tr
        ></thead
      >
      <tbody>
        {#each rows as row, at (row.marks[0])}
          <tr class:stopped={said.has(at)}>
            <td
              ><b class="number">{nameOf(row)}</b>{#if row.marks[0]!.lot}<span class="small soft">
                  lot {row.marks[0]!.lot}</span
                >{/if}<br /><span class="small soft"
                >{row.marks[0]!.product} {row.marks[0]!.name}</span
              >{#if said.has(at)}<br /><span class="refused" role="alert">{said.get(at)}</span
                >{/if}</td
            >
            <td class="right"
              ><span class="number">{sayQuantity(row.quantity)}</span>
              <span class="small soft">{row.marks[0]!.unit}</span></td
            >
            <td class="right"
              ><input
                class="field number cost"
                inputmode="decimal"
                aria-label="What one of {nameOf(row)} of {row.marks[0]!.product} costs"
                placeholder="not known"
                value={row.typed}
                oninput={(event) => type(at, event.currentTarget.value)}
              /></td
            >
            <td class="right number"
              >{parseQuantity(row.typed) === null
                ? '–'
                : sayMoney(parseQuantity(row.typed)!.times(row.quantity).toFixed())}</td
            >
          </tr>
        {/each}
      </tbody>
      <tfoot
        ><tr
          ><td colspan="3" class="right soft"
            >{worth.unknown > 0
              ? `without ${count(worth.unknown, 'row')} of unknown cost`
              : 'in all'}</td
          ><td class="right number"><b>{sayMoney(worth.sum)}</b></td></tr
        ></tfoot
      >
    </table>
  </WideTable>
  {#if data.event}<fieldset>
      <legend>Freight, duty and the like, on top of it</legend>
      <label class="stack"
        >amount{data.currency ? `, ${data.currency}` : ''}<input
          class="field number"
          inputmode="decimal"
          bind:value={amount}
          oninput={() => (key = newKey())}
        /></label
      >
      <label class="stack"
        >spread by<select class="field" bind:value={by}
          ><option value="value">value</option><option value="quantity">quantity</option><option
            value="weight">net weight</option
          ></select
        ></label
      >
    </fieldset>{/if}
  <label class="stack why">why<input class="field" bind:value={reason} maxlength="2000" /></label>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if done !== null}<p class="good" role="status">
      ✓ Told, as <a href="/events/{done}">event {done}</a>.
      <a href="/value/changes">What it changed</a>
    </p>{/if}
  <div class="end">
    <button class="act main" disabled={!ready || busy || done !== null} onclick={book}
      >Tell the cost of {what}</button
    >
  </div>
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
    max-width: 980px;
  }
  .cost {
    width: 130px;
    text-align: right;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: flex;
    gap: 16px;
    align-items: end;
  }
  legend {
    font-weight: 600;
    margin-bottom: 6px;
  }
  .why {
    max-width: 620px;
  }
  .end {
    display: flex;
    justify-content: flex-end;
  }
  .stopped {
    background: var(--rust-pale);
  }
</style>
