<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import { onMount, untrack } from 'svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import AskedOfTransfer from '$lib/ui/stock/AskedOfTransfer.svelte';
  import { count, dayOfInstant, sayQuantity, sayTime } from '$lib/ui/parts/say.ts';
  import { readSscc } from '$lib/core/gs1/sscc.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { arriving, sayCartons, tickArrived } from '$lib/ui/stock/arriving.ts';
  import type { Part } from '$lib/ui/stock/moving.ts';
  import { linesOfScan } from '$lib/ui/stock/scans.ts';
  import ScanNumbers from '$lib/ui/stock/ScanNumbers.svelte';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import TransferRows from '$lib/ui/stock/TransferRows.svelte';
  import { toldOf, type Asked } from '$lib/ui/stock/transferring.ts';

  let { data } = $props();
  const beginning = (): Part[] =>
    data.underWay.rows.map((row) => ({ row, to: '', quantity: row.quantity, going: false }));
  let parts = $state.raw<Part[]>(untrack(beginning));
  const address = $derived(encodeURIComponent(data.head.document));
  const toLeave = $derived(
    data.order !== null && !data.order.closed && data.order.lines.some((line) => line.left !== '0')
  );
  let place = $state(
    untrack(
      () => data.places.find((one) => one.kind === 'dock')?.code ?? data.places[0]?.code ?? ''
    )
  );
  let said = $state.raw<ReadonlyMap<number, string>>(new Map());
  let refused = $state.raw<string[]>([]);
  let done = $state('');
  let reason = $state('');
  let writing = $state(false);
  let busy = $state(false);
  let key = newKey();
  /** Scanned once, a carton is ticked; a second look at it does not tick more of a lot. */
  const scannedCartons = new Set<string>();
  const inCarton = $derived(sayCartons(data.underWay.rows, data.cartons));
  const going = $derived(parts.filter((part) => part.going).length);

  const put = (next: Part[]): void => {
    parts = next;
    key = newKey();
    said = new Map();
    done = '';
  };
  /** A scan ticks what arrived: a number, a carton, or all cartons of a pallet. */
  function take(scanned: string): void {
    refused = [];
    let next: Part[] | null = null;
    for (const line of linesOfScan(scanned, data.today)) {
      if (scannedCartons.has(line)) continue;
      const ticked = tickArrived(next ?? parts, data.cartons, line);
      if (ticked) next = ticked;
      else refused = [...refused, notUnderWay(line)];
      if (ticked && readSscc(line)) scannedCartons.add(line);
    }
    if (next) put(next);
  }
  const notUnderWay = (scanned: string): string =>
    `${scanned} is not on the way with ${data.head.document}. It may have arrived already.`;
  async function book({ of, ...body }: Pick<Asked, 'of'>, says: string): Promise<void> {
    if (busy) return;
    busy = true;
    const reply = await send<{ event: { id: number } }>(
      'POST',
      `/api/v1/transfers/${address}/arrivals`,
      { place, ...body },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      ({ said, refused } = toldOf({ of }, reply.refusal));
      return;
    }
    refused = [];
    writing = false;
    await refresh();
    scannedCartons.clear();
    put(beginning());
    done = `${says}, as event ${reply.body.event.id}.`;
  }
  const arrive = () =>
    book(arriving(parts, data.cartons), `${count(going, 'line')} arrived at ${place}`);
  const writeOff = () => {
    const lost = { of: [], short: 'lost', reason: reason.trim() };
    return book(lost, `${count(data.underWay.total, 'line')} written off`);
  };
  /** When the first of it left; of what only stands ordered, when it is due. */
  function sayLeft(): string {
    const [first] = data.steps;
    if (first) return `left ${sayDistance(dayOfInstant(first.at), data.today)}`;
    const due = data.order?.due;
    return due ? `ordered, due ${sayDistance(due, data.today)}` : 'ordered';
  }
  function sayUnderWay(): string {
    if (parts.length > 0)
      return ` · ${count(data.underWay.total, 'lot or serial', 'lots and serials')} under way`;
    if (data.steps.length === 0) return ' · nothing has left';
    return toLeave ? ' · what left has arrived' : ' · all has arrived';
  }
  async function close(closed: boolean): Promise<void> {
    const reply = await send('PATCH', `/api/v1/transfers/${address}`, { closed });
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    await refresh();
  }
  function sayStep({ kind, quantity }: (typeof data.steps)[number]): string {
    if (kind === 'loss') return 'written off';
    return quantity.startsWith('-') ? 'arrived' : 'left';
  }
  onMount(() => {
    if (data.mayBook) scanTarget.current = { offer: (one) => `${one} arrived`, take };
    return () => (scanTarget.current = null);
  });
</script>

<svelte:head><title>Transfer {data.head.document} · Earmark</title></svelte:head>
<StockNav />
<div class="page">
  <div class="page-head">
    <h1>Transfer <span class="number">{data.head.document}</span></h1>
    <p class="soft">
      {data.head.fromName} → {data.head.toName}, {sayLeft()}, {data.head.openedBy}{sayUnderWay()}
    </p>
    <span class="page-acts"
      ><a class="act" href="/api/v1/transfers/{address}/note" target="_blank" rel="noopener"
        >Transfer note</a
      ><a class="act quiet" href="/transfer">All transfers</a></span
    >
  </div>
  {#if done}<p class="good" role="status">✓ {done}</p>{/if}
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if data.order}
    <h2>What was ordered</h2>
    {#if data.order.note}<p>{data.order.note}</p>{/if}
    <AskedOfTransfer lines={data.order.lines} />
    {#if data.order.closed}<p class="soft">It is closed: what has not left will not.</p>{/if}
    {#if data.mayBook}<div class="field-row end">
        {#if data.order.closed}<button class="act quiet" onclick={() => close(false)}
            >Open it again</button
          >{:else if toLeave}<button class="act quiet" onclick={() => close(true)}
            >Close it: the rest is not sent</button
          >{/if}
        {#if data.steps.length === 0}<a class="act" href="/transfer/order?change={address}"
            >Change it</a
          >{/if}
        {#if toLeave}<a class="act main" href="/transfer?order={address}">Send it</a>{/if}
      </div>{/if}
  {/if}
  {#if parts.length > 0}
    <h2>Under way</h2>
    {#if data.mayBook}<div class="field-row">
        <label class="stack"
          >arrives at<PlaceChoice places={data.places} bind:value={place} /></label
        >
        <button class="act" onclick={() => put(parts.map((part) => ({ ...part, going: true })))}
          >All of it is here</button
        >
        <ScanNumbers label="or scan what is here: numbers, cartons, pallets" onscan={take} />
      </div>{/if}
    <TransferRows
      {parts}
      {said}
      {inCarton}
      mayBook={data.mayBook}
      verb="Arrived:"
      onset={(at, change) => put(parts.with(at, { ...parts[at]!, going: true, ...change }))}
    />
    <Cut
      shown={data.underWay.rows.length}
      total={data.underWay.total}
      of="lots and serials under way"
      rest="book these in, and the rest is listed"
    />
    {#if data.mayBook}<div class="field-row end">
        {#if data.mayWriteOff && going === 0}<button
            class="act danger"
            onclick={() => (writing = true)}>Write off what did not arrive …</button
          >{/if}
        <button class="act main" disabled={going === 0 || busy || place === ''} onclick={arrive}
          >{busy ? 'Booking …' : `Book ${going} in`}</button
        >
      </div>{/if}
    {#if writing}<form
        class="field-row"
        onsubmit={(event) => {
          event.preventDefault();
          if (reason.trim()) void writeOff();
        }}
      >
        <label class="stack scan"
          >why {count(data.underWay.total, 'line')} will not arrive<input
            class="field"
            bind:value={reason}
            maxlength="2000"
          /></label
        >
        <button class="act danger" disabled={reason.trim() === '' || busy}>Write them off</button>
        <button class="act quiet" type="button" onclick={() => (writing = false)}
          >Let them wait</button
        >
      </form>{/if}
  {/if}
  {#if data.steps.length > 0}<h2>What happened on it</h2>{/if}
  <ul>
    {#each data.steps as step (step.event)}<li>
        <a href="/events/{step.event}">{sayStep(step)}</a>
        <span class="number">{sayQuantity(step.quantity.replace('-', ''))}</span>
        <span class="soft small"
          >{count(step.marks, 'mark')} · {sayDay(dayOfInstant(step.at))}, {sayTime(step.at)} · {step.by}{step.reason
            ? `: ${step.reason}`
            : ''}</span
        >
      </li>{/each}
  </ul>
</div>

<style>
  .end {
    justify-content: flex-end;
  }
  .scan {
    flex: 1;
  }
  .scan input {
    width: 100%;
  }
  li {
    padding: 6px 0;
    border-bottom: 1px solid #ebe5da;
  }
</style>
