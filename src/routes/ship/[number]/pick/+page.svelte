<!-- Picking by scan, made for a phone in one hand: the next stop on top, one field, what was said large. -->
<script lang="ts">
  import ProductPicture from '$lib/ui/catalogue/ProductPicture.svelte';
  import { onMount, tick, untrack } from 'svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import ToldScan from '$lib/ui/bench/ToldScan.svelte';
  import { DockActs } from '$lib/ui/dock/acts.svelte.ts';
  import LeftApart from '$lib/ui/dock/LeftApart.svelte';
  import Live from '$lib/ui/frame/Live.svelte';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import FallenStops from '$lib/ui/shipping/FallenStops.svelte';
  import type { LeftPick } from '$lib/ui/shipping/left-picks.ts';
  import { openOf, Picking } from '$lib/ui/shipping/picking.svelte.ts';
  import PickStops from '$lib/ui/shipping/PickStops.svelte';
  import { count, sayAmount, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  let text = $state('');
  let amount = $state('');
  let field = $state<HTMLInputElement>();
  const href = $derived(`/ship/${encodeURIComponent(data.order.number)}`);

  const acts = untrack(() =>
    data.mayPick
      ? new DockActs<LeftPick>({
          ...{ login: data.actor!.login, sheet: `pick ${data.order.number}` },
          ...{ document: data.order.number, href: `${href}/pick`, next: [`${href}/pack`] },
          known: `${href}/known`
        })
      : undefined
  );
  const picking = untrack(
    () =>
      new Picking({
        ...{ order: data.order.number, picks: data.picks, maySwap: data.maySwap, acts },
        today: () => data.today
      })
  );
  // What others picked, and what waited here and is booked by now.
  $effect(() => picking.serve(data.picks));

  const stops = $derived(picking.stops);
  const open = $derived(picking.open);
  const fallen = $derived(picking.picks.filter((pick) => pick.fell !== null));
  const next = $derived(open[0] ?? null);
  const done = $derived(stops.length > 0 && open.length === 0);
  const said = $derived(picking.said);
  const left = $derived(acts?.waits.length ?? 0);

  async function take(scan: string): Promise<void> {
    const part = amount;
    [text, amount] = ['', ''];
    const isAnswered = await picking.take(scan, part);
    if (!isAnswered && text === '') [text, amount] = [scan, part];
    await tick();
    field?.focus();
  }

  onMount(() => {
    if (data.mayPick) {
      scanTarget.current = {
        offer: () => `Pick for ${data.order.number}`,
        take: (scan) => void take(scan)
      };
      field?.focus();
      void acts?.open();
    }
    return () => {
      scanTarget.current = null;
    };
  });
</script>

<svelte:head><title>Pick {data.order.number} · Ship · Earmark</title></svelte:head>
<Live of={['picks', 'ledger']} />
<div class="pick">
  <header>
    <h1>
      Pick <a class="number" {href}>{data.order.number}</a>
      <span class="soft">· {data.order.partnerName}</span>
    </h1>
    <span class="tally number">{stops.length - open.length} of {stops.length}</span>
  </header>
  {#if left > 0}<p class="mind">
      {count(left, 'scan')}
      {left === 1 ? 'is' : 'are'} kept on this device and sent when the line is back. Go on; do not sign
      out before.
    </p>{/if}
  {#if acts}<LeftApart
      refused={acts.refused}
      again={{
        says: 'Scan it again',
        act: ({ request }) => void take((request as { scan: string }).scan)
      }}
    />{/if}
  {#if picking.picks.length === 0}
    <p class="none">
      No pick list has been made for this order. <a href="{href}/choose">Choose what goes</a>, and
      make it there.
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
      faults={picking.waits}
      going={picking.going}
      again={() => picking.takeAgain(amount)}
      says="Take it with this reason"
    />
    {#if picking.swap && picking.swap.from.length > 0}<div class="acts">
        {#each picking.swap.from as from (from)}<button
            class="act"
            onclick={() => void picking.swapFor(from)}>Swap {from} for {picking.swap.to}</button
          >{/each}
      </div>{/if}
    {#if done}<div class="acts">
        <a class="act main" href="{href}/pack">Pack {count(stops.length, 'stop')}</a>
      </div>{/if}
    {#if data.mayPick && !done}
      <form
        onsubmit={(event) => {
          event.preventDefault();
          void take(text);
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
        <!-- Without a button a form of two fields swallows Enter, and a scanner's with it; so does one
             that is disabled while the last scan is on its way. -->
        <button class="act main take" disabled={text.trim() === ''}>Take it</button>
        {#if next?.kind === 'bulk' && text.trim() === ''}<button
            type="button"
            class="act take"
            disabled={picking.busy}
            onclick={() => void take(next.product)}
            >Take {sayQuantity(amount.trim() || openOf(next))} {next.unit} of {next.product}</button
          >{/if}
      </form>
    {/if}
    <FallenStops
      order={data.order.number}
      {fallen}
      mayPick={data.mayPick}
      onback={(pick) => void picking.putBack(pick)}
    />
    <PickStops
      {stops}
      left={picking.left}
      mayPick={data.mayPick}
      onback={(pick) => void picking.putBack(pick)}
    />
    <p class="small">
      <a
        href="/api/v1/orders/sales/{encodeURIComponent(data.order.number)}/pick-list?format=pdf"
        target="_blank"
        rel="noopener">Pick list on paper</a
      >{#if acts?.isReady}<span class="soft ready">works without a line</span>{/if}
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
  .ready {
    margin-left: 14px;
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
