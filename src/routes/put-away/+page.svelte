<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { invalidateAll } from '$app/navigation';
  import { sayDistance } from '$lib/core/calendar/say-day.ts';
  import { looksLikeSymbol, readElementString } from '$lib/core/gs1/element-string.ts';
  import { formatQuantity, parseQuantity, quantity } from '$lib/core/quantity/quantity.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { keys } from '$lib/ui/frame/keys.svelte.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  type Waiting = (typeof data.waiting.rows)[number];
  /** A part of what waits, and where it goes; a lot split over places has several. */
  interface Part {
    row: Waiting;
    to: string;
    quantity: string;
    going: boolean;
  }
  const WHY = {
    'same mark': 'the same lies there',
    'same lot': 'its lot lies there',
    'same product': 'the product lies there',
    room: 'there is room'
  };
  const partsOf = (rows: readonly Waiting[]): Part[] =>
    rows.map((row) => ({
      row,
      to: row.proposal?.place ?? '',
      quantity: row.quantity,
      going: row.proposal !== null
    }));

  let parts = $state.raw<Part[]>(untrack(() => partsOf(data.waiting.rows)));
  let key = newKey();
  let refused = $state<string[]>([]);
  let done = $state('');
  let busy = $state(false);
  const going = $derived(parts.filter((part) => part.going && part.to !== ''));
  const places = $derived(new Set(going.map((part) => part.to)).size);

  const set = (index: number, change: Partial<Part>): void => {
    parts = parts.with(index, { ...parts[index]!, ...change });
    key = newKey();
    refused = [];
  };

  /** Splits a part in two: what is typed stays, the rest goes to a place of its own. */
  function split(index: number): void {
    const part = parts[index]!;
    const half = quantity(part.quantity).div(2);
    const first =
      part.row.unit === 'each' || !part.quantity.includes('.')
        ? half.floor()
        : half.toDecimalPlaces(3);
    if (first.lte(0)) return;
    parts = [
      ...parts.slice(0, index),
      { ...part, quantity: formatQuantity(first) },
      { ...part, quantity: formatQuantity(quantity(part.quantity).minus(first)), to: '' },
      ...parts.slice(index + 1)
    ];
    key = newKey();
  }

  async function book(): Promise<void> {
    busy = true;
    const lines = going.map(({ row, to, quantity: amount }) => ({
      product: row.product,
      from: row.from,
      to,
      ...(row.kind === 'serial'
        ? { serial: row.number!, ...(row.lot ? { lot: row.lot } : {}) }
        : row.kind === 'lot'
          ? { lot: row.number!, quantity: amount }
          : { quantity: amount })
    }));
    const document = going[0]!.row.document ?? 'PUT-AWAY';
    const reply = await send<{ event: { id: number } }>(
      'POST',
      '/api/v1/moves',
      { document, kind: 'put away', lines },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    done = `${count(lines.length, 'line')} put away, as event ${reply.body.event.id}.`;
    key = newKey();
    await invalidateAll();
    parts = partsOf(data.waiting.rows);
  }

  /**
   * A scanned number chooses its row, and only the scanned ones go; a scanned place is where the
   * chosen ones go.
   */
  let picked = $state.raw<Set<number>>(new Set());
  function take(text: string): void {
    const reading = looksLikeSymbol(text) ? readElementString(text, data.today) : null;
    const number = (
      reading?.ok ? (reading.symbol.serial ?? reading.symbol.lot ?? '') : text
    ).toUpperCase();
    const place = data.places.find((one) => one.code.toUpperCase() === number);
    if (place) {
      parts = parts.map((part) =>
        picked.has(part.row.mark) ? { ...part, to: place.code, going: true } : part
      );
      picked = new Set();
      return;
    }
    const row = parts.find((part) => part.row.number?.toUpperCase() === number);
    if (!row) {
      refused = [`${text} does not wait at a dock. Scan what lies there, or a place to put it.`];
      return;
    }
    refused = [];
    if (picked.size === 0) parts = parts.map((part) => ({ ...part, going: false }));
    picked = new Set([...picked, row.row.mark]);
    parts = parts.map((part) => (part.row.mark === row.row.mark ? { ...part, going: true } : part));
  }

  onMount(() => {
    if (data.mayBook) scanTarget.current = { offer: (text) => `Put ${text} away`, take };
    keys.screen = [
      {
        key: 'Ctrl+Enter',
        says: 'Put away what is ticked',
        act: () => {
          if (going.length > 0) void book();
        }
      }
    ];
    return () => {
      scanTarget.current = null;
      keys.screen = [];
    };
  });
</script>

<svelte:head><title>Put away · Earmark</title></svelte:head>
<StockNav />
<div class="screen">
  <div class="top">
    <h1>
      Put away{#if data.event}
        · event {data.event}{/if}
    </h1>
    {#if data.event}<a href="/put-away">Everything that waits</a>{/if}
    <a href="/receive">Back to Receive</a>
  </div>
  {#if done}<p class="kept" role="status">✓ {done}</p>{/if}
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if parts.length === 0}
    <p class="soft empty">
      Nothing waits at a dock. What is received at a dock place stands here until it lies where it
      is kept.
    </p>
  {:else}
    <Cut
      shown={data.waiting.rows.length}
      total={data.waiting.total}
      of="lots and serials that wait"
      rest="put these away, and the next come"
    />
    <table class="plain">
      <thead
        ><tr
          ><th scope="col"><span class="visually-hidden">Goes</span></th><th scope="col">What</th
          ><th scope="col">Lies at</th><th scope="col" class="right">How much</th><th scope="col"
            >Goes to</th
          ><th scope="col"><span class="visually-hidden">Split</span></th></tr
        ></thead
      >
      <tbody>
        {#each parts as part, index (index)}
          {@const name = part.row.number ?? part.row.product}
          <tr class:picked={picked.has(part.row.mark)}>
            <td class="tick"
              ><input
                type="checkbox"
                checked={part.going}
                disabled={!data.mayBook}
                aria-label="Put {name} away"
                onchange={(event) => set(index, { going: event.currentTarget.checked })}
              /></td
            >
            <td
              ><Tag
                kind={part.row.kind}
                number={part.row.number}
                under="{part.row.product} {part.row.name}{part.row.kind === 'serial' && part.row.lot
                  ? ` · lot ${part.row.lot}`
                  : ''}"
                state={part.row.state}
                href="/marks/{part.row.mark}"
              /></td
            >
            <td
              >{part.row.fromName}<br /><span class="small soft"
                ><span class="number">{part.row.document ?? ''}</span>, {sayDistance(
                  part.row.since,
                  data.today
                )}</span
              ></td
            >
            <td class="right"
              >{#if part.row.kind === 'serial' || !data.mayBook}<b class="number"
                  >{sayQuantity(part.quantity)}</b
                >{:else}<input
                  class="field number amount"
                  inputmode="decimal"
                  value={part.quantity}
                  aria-label="How much of {name}"
                  aria-invalid={parseQuantity(part.quantity) === null}
                  onchange={(event) => set(index, { quantity: event.currentTarget.value })}
                />{/if} <span class="small soft">{part.row.unit}</span></td
            >
            <td
              ><select
                class="field"
                value={part.to}
                disabled={!data.mayBook}
                aria-label="Where {name} goes"
                onchange={(event) =>
                  set(index, {
                    to: event.currentTarget.value,
                    going: event.currentTarget.value !== ''
                  })}
              >
                <option value="">choose a place</option
                >{#each data.places as place (place.code)}<option value={place.code}
                    >{place.siteName}, {place.name}</option
                  >{/each}
              </select>{#if part.row.proposal && part.to === part.row.proposal.place}<br /><span
                  class="small soft">{WHY[part.row.proposal.why]}</span
                >{/if}</td
            >
            <td
              >{#if part.row.kind !== 'serial' && data.mayBook}<button
                  class="act quiet"
                  aria-label="Split {name} over two places"
                  onclick={() => split(index)}>Split</button
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#if data.mayBook}
      <footer>
        <span
          ><b class="big number">{going.length}</b> of {parts.length} go to {count(
            places,
            'place'
          )}</span
        >{#if picked.size > 0}<span class="soft small"
            >{picked.size} scanned; scan the place they go to</span
          >{/if}
        <button class="act main" disabled={going.length === 0 || busy} onclick={book}
          >{busy ? 'Booking …' : `Put ${going.length} away`}</button
        >
      </footer>
    {/if}
  {/if}
</div>

<style>
  .screen {
    display: flex;
    flex-direction: column;
    min-height: 100%;
  }
  .top {
    display: flex;
    gap: 18px;
    align-items: baseline;
    padding: 16px 22px 10px;
    flex-wrap: wrap;
  }
  .top a {
    font-size: 14px;
  }
  table {
    margin: 0 22px;
    width: calc(100% - 44px);
  }
  td {
    vertical-align: middle !important;
  }
  .tick {
    width: 40px;
  }
  .tick input {
    width: 20px;
    height: 20px;
    accent-color: var(--brass);
  }
  tr.picked {
    background: var(--brass-pale);
  }
  .amount {
    width: 96px;
    text-align: right;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
    padding: 0 22px 8px;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 14px;
    margin: 0 22px 8px;
  }
  .empty {
    padding: 10px 22px;
  }
  footer {
    position: sticky;
    bottom: 0;
    margin-top: auto;
    border-top: 2px solid var(--ink);
    background: var(--paper);
    padding: 8px 22px;
    display: flex;
    gap: 22px;
    align-items: center;
    flex-wrap: wrap;
    min-height: 60px;
  }
  footer .act {
    margin-left: auto;
  }
  .big {
    font-size: 23px;
    font-family: var(--sans);
  }
  @media (max-width: 700px) {
    table {
      margin: 0 12px;
      width: calc(100% - 24px);
    }
    thead {
      display: none;
    }
    tr {
      display: grid;
      grid-template-columns: 40px minmax(0, 1fr) auto;
      gap: 2px 8px;
      align-items: center;
      padding: 10px 0;
      border-bottom: 1px solid var(--line);
    }
    td {
      display: block;
      border: 0;
      padding: 0;
      text-align: left;
    }
    td:nth-child(2),
    td:nth-child(3) {
      grid-column: 2 / 4;
    }
    td:nth-child(4) {
      grid-column: 2;
    }
    td:nth-child(5) {
      grid-column: 2 / 4;
      grid-row: 4;
    }
    td:nth-child(6) {
      grid-column: 3;
      grid-row: 3;
    }
    td select {
      width: 100%;
      min-height: 44px;
    }
    footer .act {
      width: 100%;
      justify-content: center;
      min-height: 48px;
    }
  }
</style>
