<!-- The sheet of what leaves a site: on an order, or of one’s own accord. -->
<script lang="ts">
  import { inTurn } from '../../core/in-turn.ts';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import type { TransferLine } from '$lib/core/stock/transfer-line.ts';
  import type { Lying } from '$lib/core/stock/lying.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { askBeforeLeaving } from '../frame/ask-before-leaving.ts';
  import { newKey } from '../frame/new-key.ts';
  import { scanTarget } from '../frame/scan-target.svelte.ts';
  import AskedOfTransfer from './AskedOfTransfer.svelte';
  import { addParts, missingOf, sayCut, sayMissing, type Part } from './moving.ts';
  import { linesOfScan, readScans } from './scans.ts';
  import ScanNumbers from './ScanNumbers.svelte';
  import TransferRows from './TransferRows.svelte';
  import { leaving, toldOf, sayShort, takeProposed, tickedByProduct } from './transferring.ts';

  interface Ordered {
    document: string;
    from: string;
    fromName: string;
    to: string;
    toName: string;
    lines: readonly TransferLine[];
  }
  interface Props {
    /** What was ordered ahead; null where something is sent of one’s own accord. */
    order: Ordered | null;
    sites: readonly { code: string; name: string }[];
    today: string;
  }
  let { order, sites, today }: Props = $props();
  let from = $state(untrack(() => order?.from ?? sites[0]?.code ?? ''));
  let to = $state(untrack(() => order?.to ?? sites[1]?.code ?? ''));
  let document = $state(untrack(() => order?.document ?? ''));
  let parts = $state.raw<Part[]>([]);
  /** Cartons and pallets that leave with all that is in them. */
  let units = $state.raw<string[]>([]);
  let said = $state.raw<ReadonlyMap<number, string>>(new Map());
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  let key = newKey();
  let sent = false;
  const proposed = $derived(`TR-${today.slice(2).replaceAll('-', '')}`);
  const going = $derived(parts.filter((part) => part.going).length);
  const many = $derived(going + units.length);
  const ready = $derived(many > 0 && from !== to && to !== '' && !busy);
  const onSheet = $derived(tickedByProduct(parts));
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
    const { cartons, numbers, wrong } = readScans(linesOfScan(scanned, today));
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
    const missing =
      rows.length < total ? sayCut(rows.length, total) : sayMissing(missingOf(numbers, rows));
    if (missing) refused = [...refused, missing];
    put(addParts(parts, rows, '').parts);
  }
  /** Puts on the sheet what is free at the site, soonest to expire first. */
  async function propose(of: string): Promise<void> {
    refused = [];
    const reply = await send<{
      rows: (Lying & { take: string })[];
      short: { product: string; quantity: string }[];
    }>('GET', `/api/v1/transfers/${encodeURIComponent(of)}/proposal`);
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    put(takeProposed(parts, reply.body.rows));
    const short = sayShort(reply.body.short, order?.fromName ?? '');
    if (short) refused = [short];
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
      ({ said, refused } = toldOf({ of }, reply.refusal));
      return;
    }
    sent = true;
    await goto(`/transfer/${encodeURIComponent(name)}`);
  }
  onMount(() => {
    scanTarget.current = {
      offer: (one) => `Send ${one}`,
      take: takeInTurn
    };
    return () => (scanTarget.current = null);
  });
</script>

{#if order}
  <h2>
    <span>Send <b class="number">{order.document}</b></span>
    <a class="small" href="/transfer/{encodeURIComponent(order.document)}">The order</a>
  </h2>
{:else}<h2>
    Send {#if sites.length > 1}<a class="small" href="/transfer/order">Order one ahead</a>{/if}
  </h2>{/if}
{#if sites.length < 2}<p class="soft">
    There is one site. A place of another site, set up in Setup → Places, makes a second.
  </p>{:else}
  {#if order}
    <p>{order.fromName} → {order.toName}</p>
    <AskedOfTransfer lines={order.lines} {onSheet} />
    {#if units.length > 0}<p class="soft small">
        What is in a carton counts when it has left.
      </p>{/if}
  {:else}<div class="field-row">
      <label class="stack"
        >from<select class="field" bind:value={from}
          >{#each sites as site (site.code)}<option value={site.code}>{site.name}</option
            >{/each}</select
        ></label
      >
      <label class="stack"
        >to<select class="field" bind:value={to}
          >{#each sites as site (site.code)}<option value={site.code}>{site.name}</option
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
    </div>{/if}
  <ScanNumbers label="scan or paste what leaves, a range A1..A9, or cartons" onscan={takeInTurn}>
    {#if order && order.lines.some((line) => line.left !== '0')}{@const of = order.document}<button
        type="button"
        class="act"
        onclick={() => void turn(() => propose(of))}>Propose what to take</button
      >{/if}
  </ScanNumbers>
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
      mayBook
      verb="Send"
      onset={(at, change) => put(parts.with(at, { ...parts[at]!, ...change }))}
    />{/if}
  {#if many > 0}<button class="act main" disabled={!ready} onclick={() => turn(leave)}
      >{busy ? 'Booking …' : `Send ${many}`}</button
    >{/if}
{/if}
