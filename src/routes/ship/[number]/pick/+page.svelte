<!-- Picking by scan, made for a phone in one hand: the next stop on top, one field, what was said large. -->
<script lang="ts">
  import ProductPicture from '$lib/ui/catalogue/ProductPicture.svelte';
  import { inTurn } from '$lib/core/in-turn.ts';
  import { onMount, untrack } from 'svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { quantity } from '$lib/core/quantity/quantity.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import type { Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import type { Told } from '$lib/ui/bench/in-hand.ts';
  import { sound } from '$lib/ui/bench/sound.ts';
  import ToldScan from '$lib/ui/bench/ToldScan.svelte';
  import Live from '$lib/ui/frame/Live.svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import FallenStops from '$lib/ui/shipping/FallenStops.svelte';
  import PickStops from '$lib/ui/shipping/PickStops.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  let picks = $state.raw(untrack(() => data.picks));
  let text = $state('');
  let amount = $state('');
  let said = $state.raw<Told | null>(null);
  let swap = $state<{ to: string; from: string[] } | null>(null);
  let busy = $state(false);
  let field = $state<HTMLInputElement>();

  /** What others picked meanwhile. A pick of one's own that is on its way brings it all along. */
  async function readAnew(): Promise<void> {
    if (busy) return;
    await refresh();
    if (!busy) picks = data.picks;
  }

  /** What was held, has expired or left meanwhile is no stop any more; it is said apart. */
  const stops = $derived(picks.filter((pick) => pick.fell === null));
  const fallen = $derived(picks.filter((pick) => pick.fell !== null));
  const open = $derived(stops.filter((pick) => pick.picked !== pick.quantity));
  const next = $derived(open[0] ?? null);
  const openOf = (pick: (typeof picks)[number]): string =>
    quantity(pick.quantity).minus(pick.picked).toFixed();
  const done = $derived(stops.length > 0 && open.length === 0);
  /** What the last scan was refused for and may go on in spite of, and that scan. */
  let waiting = $state.raw<Fault[]>([]);
  let waitingScan = $state('');
  const going = new GoingOn();

  async function reload(): Promise<void> {
    const reply = await send<{ picks: typeof data.picks }>(
      'GET',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/pick-list`
    );
    if (reply.ok) picks = reply.body.picks;
  }
  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  async function take(scan: string): Promise<void> {
    if (!scan.trim() || busy) return;
    busy = true;
    swap = null;
    if (scan.trim() !== waitingScan) dropReasons();
    const body = {
      scan: scan.trim(),
      ...(amount.trim() ? { quantity: amount.trim() } : {}),
      ...going.given
    };
    const reply = await send<{ said: string; moved: boolean; already: boolean }>(
      'POST',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/picks`,
      body,
      { 'idempotency-key': newKey() }
    );
    busy = false;
    text = '';
    amount = '';
    if (reply.ok) {
      dropReasons();
      said = {
        tone: reply.body.moved || reply.body.already ? 'warned' : 'taken',
        text: reply.body.said
      };
      await reload();
      sound(open.length === 0 ? 'done' : 'taken');
    } else {
      said = { tone: 'refused', text: messagesOf(reply.refusal).join(' ') };
      sound('refused');
      const faults = reply.refusal.errors as Fault[];
      if (faults.some((fault) => fault.answer)) {
        waiting = faults;
        waitingScan = scan.trim();
      }
      const wrong = reply.refusal.errors.find(
        (one) => one.code === 'mark.wrong-product' && /swap it/.test(one.message)
      );
      if (wrong?.number && data.maySwap)
        swap = {
          to: wrong.number,
          from: picks
            .filter(
              (pick) =>
                pick.picked === '0' && pick.number !== null && wrong.message.includes(pick.number)
            )
            .map((pick) => pick.number!)
        };
    }
    field?.focus();
  }
  function dropReasons(): void {
    waiting = [];
    waitingScan = '';
    going.clear();
  }
  async function swapIt(from: string): Promise<void> {
    const to = swap!.to;
    const reply = await send(
      'PUT',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/swaps`,
      { from, to }
    );
    if (!reply.ok) {
      said = { tone: 'refused', text: messagesOf(reply.refusal).join(' ') };
      return;
    }
    swap = null;
    await take(to);
  }
  async function putBack(pick: number): Promise<void> {
    const reply = await send<{ picks: typeof data.picks }>(
      'DELETE',
      `/api/v1/orders/sales/${encodeURIComponent(data.order.number)}/picks`,
      { pick }
    );
    if (reply.ok) {
      picks = reply.body.picks;
      said = { tone: 'warned', text: 'Put back on the list.' };
    } else said = { tone: 'refused', text: messagesOf(reply.refusal).join(' ') };
  }
  onMount(() => {
    if (data.mayPick) {
      scanTarget.current = {
        offer: () => `Pick for ${data.order.number}`,
        take: takeInTurn
      };
      field?.focus();
    }
    return () => {
      scanTarget.current = null;
    };
  });
</script>

<svelte:head><title>Pick {data.order.number} · Ship · Earmark</title></svelte:head>
<Live of={['picks', 'ledger']} show={readAnew} />
<div class="pick">
  <header>
    <h1>
      Pick <a class="number" href="/ship/{encodeURIComponent(data.order.number)}"
        >{data.order.number}</a
      > <span class="soft">· {data.order.partnerName}</span>
    </h1>
    <span class="tally number">{stops.length - open.length} of {stops.length}</span>
  </header>
  {#if picks.length === 0}
    <p class="none">
      No pick list has been made for this order. <a
        href="/ship/{encodeURIComponent(data.order.number)}/choose">Choose what goes</a
      >, and make it there.
    </p>
  {:else}
    {#if next}
      <section class="next" aria-label="Next stop">
        <span class="place number">{next.place ?? 'anywhere'}</span>
        <ProductPicture product={next.product} size={72} />
        <span class="what"
          ><b class="number"
            >{next.kind === 'bulk' ? next.product : (next.number ?? `any ${next.product}`)}</b
          ><span class="soft"
            >{next.kind === 'bulk' ? '' : next.product}
            {next.name}{next.lot ? ` · lot ${next.lot}` : ''}{next.expires
              ? ` · ${sayDay(next.expires)}`
              : ''}</span
          ></span
        >
        <b class="amount number"
          >{sayAmount(openOf(next), next.unit)}{#if next.picked !== '0'}<small>
              of {sayQuantity(next.quantity)}</small
            >{/if}</b
        >
      </section>
    {/if}
    <ToldScan
      told={said ?? {
        tone: done ? 'taken' : 'ask',
        text: done ? 'All of it is picked.' : 'Scan what you take.'
      }}
    />
    <GoOn
      document={data.order.number}
      faults={waiting}
      {going}
      again={() => take(waitingScan)}
      says="Take it with this reason"
    />
    {#if swap && swap.from.length > 0}<div class="acts">
        {#each swap.from as from (from)}<button class="act" onclick={() => swapIt(from)}
            >Swap {from} for {swap.to}</button
          >{/each}
      </div>{/if}
    {#if done}<div class="acts">
        <a class="act main" href="/ship/{encodeURIComponent(data.order.number)}/pack"
          >Pack {count(stops.length, 'stop')}</a
        >
      </div>{/if}
    {#if data.mayPick && !done}
      <form
        onsubmit={(event) => {
          event.preventDefault();
          takeInTurn(text);
        }}
      >
        <input
          class="number"
          bind:this={field}
          bind:value={text}
          aria-label="Scan a lot or serial"
          placeholder="scan here"
          autocomplete="off"
          spellcheck="false"
          enterkeyhint="done"
        />
        {#if next && next.kind !== 'serial'}<input
            class="number part"
            bind:value={amount}
            inputmode="decimal"
            placeholder="all"
            aria-label="How much, where not all of it"
          />{/if}
        <!-- Without a button a form of two fields swallows Enter, and a scanner's with it. -->
        <button class="act main take" disabled={busy || text.trim() === ''}>Take it</button>
        {#if next?.kind === 'bulk' && text.trim() === ''}<button
            type="button"
            class="act take"
            disabled={busy}
            onclick={() => take(next.product)}
            >Take {sayQuantity(amount.trim() || openOf(next))} {next.unit} of {next.product}</button
          >{/if}
      </form>
    {/if}
    <FallenStops order={data.order.number} {fallen} mayPick={data.mayPick} onback={putBack} />
    <PickStops {stops} mayPick={data.mayPick} onback={putBack} />
    <p class="small">
      <a
        href="/api/v1/orders/sales/{encodeURIComponent(data.order.number)}/pick-list?format=pdf"
        target="_blank"
        rel="noopener">Pick list on paper</a
      >
    </p>
  {/if}
</div>

<style>
  .pick {
    --told-height: 54px;
    --told-size: 19px;
    max-width: 860px;
    margin: 0 auto;
    padding: 14px 18px 28px;
    display: grid;
    gap: 12px;
    align-content: start;
    background: var(--panel);
    min-height: 100%;
  }
  header {
    display: flex;
    gap: 12px;
    align-items: baseline;
  }
  .tally {
    margin-left: auto;
    font-size: 22px;
    font-weight: 600;
    white-space: nowrap;
  }
  .next {
    display: grid;
    grid-template-columns: auto minmax(0, 1fr) auto;
    gap: 4px 18px;
    align-items: center;
    border: 2px solid var(--ink);
    background: var(--paper-deep);
    padding: 12px 16px;
  }
  .next .place {
    font-size: 32px;
    font-weight: 600;
  }
  .next .what b {
    font-size: 24px;
  }
  .next .amount {
    font-size: 30px;
  }
  .next small {
    margin-left: 8px;
    font-size: 14px;
    font-weight: 400;
  }
  .what {
    display: grid;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 8px;
  }
  form input {
    height: 56px;
    width: 100%;
    border: 2px solid var(--line-strong);
    padding: 0 14px;
    font-size: 22px;
    background: var(--panel);
    color: var(--ink);
  }
  .take {
    grid-column: 1 / -1;
    justify-content: center;
    text-align: center;
    height: 56px;
    font-size: 18px;
  }
  form .part {
    width: 110px;
    text-align: right;
  }
  form input:focus {
    border-color: var(--brass);
    outline: 2px solid var(--brass);
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
  }
  .acts .act {
    min-height: 48px;
    font-size: 16px;
    white-space: normal;
  }
  .none {
    padding: 24px 0;
    color: var(--ink-soft);
  }
  @media (max-width: 600px) {
    .pick {
      padding: 10px;
    }
    .next {
      grid-template-columns: auto auto;
    }
    .next .what {
      grid-column: 1 / -1;
      grid-row: 2;
    }
    .next .amount {
      text-align: right;
    }
  }
</style>
