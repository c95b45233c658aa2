<script lang="ts">
  import { inTurn } from '$lib/ui/frame/in-turn.ts';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { sayDistance } from '$lib/core/calendar/say-day.ts';
  import type { Lying } from '$lib/core/stock/lying.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askBeforeLeaving } from '$lib/ui/frame/ask-before-leaving.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count } from '$lib/ui/parts/say.ts';
  import { addParts, sayCut, sayMissing, type Part } from '$lib/ui/stock/moving.ts';
  import { linesOfScan, readScans } from '$lib/ui/stock/scans.ts';
  import ScanNumbers from '$lib/ui/stock/ScanNumbers.svelte';
  import StoreDesk from '$lib/ui/stock/StoreDesk.svelte';
  import TransferRows from '$lib/ui/stock/TransferRows.svelte';
  import { leaving, saidOfParts } from '$lib/ui/stock/transferring.ts';

  let { data } = $props();
  let from = $state(untrack(() => data.sites[0]?.code ?? ''));
  let to = $state(untrack(() => data.sites[1]?.code ?? ''));
  let document = $state('');
  let parts = $state.raw<Part[]>([]);
  /** Cartons and pallets that leave with all that is in them. */
  let units = $state.raw<string[]>([]);
  let said = $state.raw<ReadonlyMap<number, string>>(new Map());
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  let key = newKey();
  let sent = false;
  const proposed = $derived(`TR-${data.today.slice(2).replaceAll('-', '')}`);
  const going = $derived(parts.filter((part) => part.going).length);
  const many = $derived(going + units.length);
  const ready = $derived(many > 0 && from !== to && to !== '' && !busy);
  const underWay = $derived(data.transfers.rows.filter((row) => row.marks > 0));
  const ended = $derived(data.transfers.rows.filter((row) => row.marks === 0));
  askBeforeLeaving(() => parts.length + units.length > 0 && !sent);

  const put = (next: Part[]): void => {
    parts = next;
    key = newKey();
    said = new Map();
  };
  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  async function take(scanned: string): Promise<void> {
    refused = [];
    const { cartons, numbers, wrong } = readScans(linesOfScan(scanned, data.today));
    if (cartons.length > 0) key = newKey();
    units = [...new Set([...units, ...cartons])];
    refused = wrong;
    if (numbers.length === 0) return;
    const reply = await send<{ rows: Lying[]; total: number }>('POST', '/api/v1/lying', {
      numbers
    });
    if (!reply.ok) {
      refused = [...refused, ...messagesOf(reply.refusal)];
      return;
    }
    const { rows, total } = reply.body;
    const missing = rows.length < total ? sayCut(rows.length, total) : sayMissing(numbers, rows);
    if (missing) refused = [...refused, missing];
    put(addParts(parts, rows, '').parts);
  }
  async function leave(): Promise<void> {
    if (!ready) return;
    busy = true;
    const name = document.trim() || proposed;
    const { of, ...asked } = leaving(parts, units);
    const body = { document: name, from, to, ...asked };
    const reply = await send('POST', '/api/v1/transfers', body, { 'idempotency-key': key });
    busy = false;
    if (!reply.ok) {
      const told = saidOfParts({ of }, reply.refusal.errors);
      said = told.said;
      refused = told.said.size > 0 ? told.rest : messagesOf(reply.refusal);
      return;
    }
    sent = true;
    await goto(`/transfer/${encodeURIComponent(name)}`);
  }
  onMount(() => {
    if (data.mayBook)
      scanTarget.current = {
        offer: (one) => `Send ${one}`,
        take: takeInTurn
      };
    return () => (scanTarget.current = null);
  });
</script>

<svelte:head><title>Transfers · Earmark</title></svelte:head>
<StoreDesk title="Transfers between sites">
  {#snippet goesOn()}
    <h2>Under way <span>{underWay.length}</span></h2>
    <ul data-list>
      {#each underWay as one (one.document)}<li>
          <a href="/transfer/{encodeURIComponent(one.document)}"
            ><b class="number">{one.document}</b>
            <span class="soft small"
              >{one.from} → {one.to} · {count(one.marks, 'lot or serial', 'lots and serials')} · left
              {sayDistance(one.since!, data.today)}</span
            ></a
          >
        </li>{:else}<li class="soft">
          Nothing is under way. What leaves a site stands here until it has arrived at the other.
        </li>{/each}
    </ul>
    {#if ended.length > 0}
      <h2>Arrived lately</h2>
      <ul>
        {#each ended.slice(0, 12) as one (one.document)}<li>
            <a href="/transfer/{encodeURIComponent(one.document)}"
              ><b class="number">{one.document}</b>
              <span class="soft small">{one.from} → {one.to}</span></a
            >
          </li>{/each}
      </ul>
      <Cut
        shown={underWay.length + Math.min(12, ended.length)}
        total={data.transfers.total}
        of="transfers"
        rest="type a number in the scan field to see others"
      />
    {/if}
  {/snippet}
  {#snippet begin()}
    {#if data.mayBook}
      <h2>Send</h2>
      {#if data.sites.length < 2}<p class="soft">
          There is one site. A place of another site, set up in Setup → Places, makes a second.
        </p>{:else}
        <div class="fields">
          <label class="stack"
            >from<select class="field" bind:value={from}
              >{#each data.sites as site (site.code)}<option value={site.code}>{site.name}</option
                >{/each}</select
            ></label
          >
          <label class="stack"
            >to<select class="field" bind:value={to}
              >{#each data.sites as site (site.code)}<option value={site.code}>{site.name}</option
                >{/each}</select
            ></label
          >
          <label class="stack"
            >document<input
              class="field number"
              bind:value={document}
              placeholder={proposed}
              maxlength="50"
            /></label
          >
        </div>
        <ScanNumbers
          label="scan or paste what leaves, a range A1..A9, or cartons"
          onscan={takeInTurn}
        />
        {#if from === to}<p class="refused" role="alert">
            A transfer goes to another site; within a site goods are moved.
          </p>{/if}
        {#each refused as message, index (index)}<p class="refused" role="alert">
            {message}
          </p>{/each}
        {#each units as sscc (sscc)}<p>
            <b class="number">{sscc}</b> with all that is in it
            <button class="act quiet" onclick={() => (units = units.filter((one) => one !== sscc))}
              >Leave it</button
            >
          </p>{/each}
        {#if parts.length > 0}<TransferRows
            {parts}
            {said}
            mayBook={data.mayBook}
            verb="Send"
            onset={(at, change) => put(parts.with(at, { ...parts[at]!, ...change }))}
          />{/if}
        {#if many > 0}<button class="act main" disabled={!ready} onclick={leave}
            >{busy ? 'Booking …' : `Send ${many}`}</button
          >{/if}
      {/if}
    {/if}
  {/snippet}
</StoreDesk>

<style>
  .fields {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
</style>
