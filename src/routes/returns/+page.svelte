<!-- Returns by scan: each number finds its sale; what came back is held until it is decided. -->
<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import { inTurn } from '$lib/core/in-turn.ts';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { onMount, untrack } from 'svelte';
  import { lineOfPath } from '$lib/core/faults/line-of-path.ts';
  import { looksLikeSymbol, readElementString } from '$lib/core/gs1/element-string.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import ReturnedLately from '$lib/ui/shipping/ReturnedLately.svelte';
  import { latest } from '$lib/ui/frame/latest.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';

  let { data } = $props();
  interface Back {
    product: string;
    kind: 'lot' | 'serial';
    number: string;
    quantity: string;
    /** The serial that goes out in its place, to whoever had it. */
    instead?: string;
  }
  const now = new Date();
  let document = $state(
    `RT-${now.toISOString().slice(2, 10).replaceAll('-', '')}-${String(now.getHours()).padStart(2, '0')}${String(now.getMinutes()).padStart(2, '0')}`
  );
  let place = $state(
    untrack(
      () => (data.places.find((one) => one.kind === 'quarantine') ?? data.places[0])?.code ?? ''
    )
  );
  let reason = $state('');
  let rows = $state<Back[]>(
    untrack(() =>
      data.first && data.first.kind !== 'bulk'
        ? [
            {
              product: data.first.product,
              kind: data.first.kind,
              number: data.first.number!,
              quantity: data.first.kind === 'serial' ? '1' : ''
            }
          ]
        : []
    )
  );
  const unsaved = askUnlessKept(() => [rows, reason]);
  let text = $state('');
  let said = $state('');
  let verdicts = $state.raw<Record<number, string>>({});
  let notes = $state.raw<string[]>([]);
  let refused = $state.raw<string[]>([]);
  interface Booked {
    event: { id: number; document: string };
    marks: unknown[];
  }
  let done = $state.raw<Booked | null>(null);
  let sent = $state.raw<Booked | null>(null);
  let key = newKey();
  let field = $state<HTMLInputElement>();
  const request = $derived({
    document,
    place,
    ...(reason.trim() ? { reason: reason.trim() } : {}),
    lines: rows.map((row) => ({
      product: row.product,
      ...(row.kind === 'serial'
        ? { serial: row.number }
        : { lot: row.number, quantity: row.quantity || '0' })
    }))
  });

  const insteadOf = (row: Back): string =>
    row.kind === 'serial' ? (row.instead ?? '').trim() : '';
  const exchanges = $derived(rows.some((row) => insteadOf(row) !== ''));
  /** As the return, and what goes out with it. */
  const exchange = $derived({
    ...request,
    lines: request.lines.map((line, index) => {
      const serial = insteadOf(rows[index]!);
      return serial === '' ? line : { ...line, replacement: { serial } };
    })
  });

  type Found = { product: string; kind: 'lot' | 'serial' | 'bulk'; number: string | null };
  /** The lots and serials of exactly this number; null where that could not be asked. */
  async function exactly(number: string): Promise<Found[] | null> {
    const asked = encodeURIComponent(number);
    const replies = await Promise.all(
      [`serial=${asked}`, `lot=${asked}`].map((query) =>
        send<{ marks: Found[] }>('GET', `/api/v1/marks?${query}&limit=200`)
      )
    );
    const found: Found[] = [];
    for (const reply of replies) {
      if (!reply.ok) {
        said = messagesOf(reply.refusal).join(' ');
        return null;
      }
      found.push(...reply.body.marks);
    }
    return found.filter(
      (mark) => mark.kind !== 'bulk' && mark.number?.toUpperCase() === number.toUpperCase()
    );
  }
  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  async function take(scan: string): Promise<void> {
    text = '';
    said = '';
    let number = scan.trim();
    if (!number) return;
    if (looksLikeSymbol(scan)) {
      const reading = readElementString(scan, data.today);
      if (!reading.ok) {
        said = `The symbol cannot be read: ${reading.why}. Scan it again.`;
        return;
      }
      number = reading.symbol.serial ?? reading.symbol.lot ?? '';
    }
    const found = await exactly(number);
    if (found === null) return;
    if (found.length === 0) {
      said = `There is no lot or serial ${number}, so it was never shipped from here. Check the number.`;
      return;
    }
    if (found.length > 1)
      said = `${number} stands for ${found.map((mark) => `a ${mark.kind} of ${mark.product}`).join(' and ')}: all are on the sheet, take off what did not come back.`;
    for (const mark of found)
      if (!rows.some((row) => row.product === mark.product && row.number === mark.number))
        rows.push({
          product: mark.product,
          kind: mark.kind as 'lot' | 'serial',
          number: mark.number!,
          quantity: mark.kind === 'serial' ? '1' : ''
        });
    void judge();
  }
  const asking = latest();
  async function judge(): Promise<void> {
    const isLatest = asking();
    refused = [];
    if (rows.length === 0) {
      verdicts = {};
      notes = [];
      return;
    }
    const reply = await send<{
      faults: { path: string; message: string }[];
      notes: { message: string }[];
    }>('POST', '/api/v1/checks/returns', request);
    if (!isLatest()) return;
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    showFaults(reply.body.faults);
    notes = reply.body.notes.map((note) => note.message);
  }
  /** What is wrong, beside the row it means; the rest above the list. */
  function showFaults(errors: readonly { path: string; message: string }[]): void {
    const atRow = errors.flatMap(({ path, message }) => {
      const at = lineOfPath(path);
      return at === null ? [] : [[at, message] as const];
    });
    verdicts = Object.fromEntries(atRow);
    refused = errors.filter(({ path }) => lineOfPath(path) === null).map(({ message }) => message);
  }
  async function bookIt(): Promise<void> {
    const headers = { 'idempotency-key': key };
    const reply = exchanges
      ? await send<{ returned: Booked; shipped: Booked }>(
          'POST',
          '/api/v1/exchanges',
          exchange,
          headers
        )
      : await send<Booked>('POST', '/api/v1/returns', request, headers);
    if (!reply.ok) {
      if (reply.refusal.status === 422) showFaults(reply.refusal.errors);
      else refused = messagesOf(reply.refusal);
      return;
    }
    done = 'returned' in reply.body ? reply.body.returned : reply.body;
    sent = 'shipped' in reply.body ? reply.body.shipped : null;
    key = newKey();
    rows = [];
    reason = '';
    unsaved.kept();
    await refresh();
  }
  onMount(() => {
    if (data.mayReturn)
      scanTarget.current = {
        offer: () => 'Add to the return',
        take: takeInTurn
      };
    if (rows.length > 0) void judge();
    field?.focus();
    return () => {
      scanTarget.current = null;
    };
  });
</script>

<svelte:head><title>Returns · Earmark</title></svelte:head>
{#snippet tally()}
  <span
    ><b class="big number">{rows.length - Object.keys(verdicts).length}</b> to take back{#if Object.keys(verdicts).length > 0}&nbsp;·
      <b class="stop">{count(Object.keys(verdicts).length, 'fault')}</b>{/if}</span
  ><span class="end"
    ><button class="act main" disabled={rows.length === 0} onclick={() => turn(bookIt)}
      >{exchanges ? 'Exchange' : 'Take back'} {rows.length}</button
    ></span
  >
{/snippet}
<Working tally={data.mayReturn ? tally : undefined}>
  {#snippet sheet()}
    <div class="returns">
      <h1>Take goods back</h1>
      {#if data.mayReturn}
        <div class="fields">
          <label class="stack"
            >return <input class="field number" bind:value={document} maxlength="60" /></label
          >
          <label class="stack"
            >to <PlaceChoice places={data.places} bind:value={place} onchange={judge} /></label
          >
          <label class="stack wide"
            >why, in their words <input class="field" bind:value={reason} maxlength="2000" /></label
          >
        </div>
        <form
          onsubmit={(event) => {
            event.preventDefault();
            takeInTurn(text);
          }}
        >
          <input
            class="field number scan"
            bind:this={field}
            bind:value={text}
            aria-label="Scan what came back"
            placeholder="scan what came back"
            autocomplete="off"
            spellcheck="false"
          />
        </form>
        {#if said}<p class="mind" role="alert">{said}</p>{/if}
        {#each refused as message, index (index)}<p class="refused" role="alert">
            {message}
          </p>{/each}
        {#each notes as note, index (index)}<p class="note small">{note}</p>{/each}
        {#if rows.length > 0}
          <ul class="rows">
            {#each rows as row, index (`${row.product} ${row.number}`)}
              <li class:bad={verdicts[index] !== undefined}>
                <b class="number">{row.number}</b><span class="soft"
                  >{row.kind} of {row.product}</span
                >
                {#if row.kind === 'lot'}<label class="small"
                    >how much <input
                      class="field number amount"
                      inputmode="decimal"
                      bind:value={row.quantity}
                      oninput={judge}
                      aria-label="How much of {row.number} came back"
                    /></label
                  >{:else if data.mayShip}<label class="small"
                    >goes out in its place <input
                      class="field number amount"
                      bind:value={row.instead}
                      placeholder="serial, if any"
                      autocomplete="off"
                      aria-label="What goes out in place of {row.number}"
                    /></label
                  >{:else}<span></span>{/if}
                <button
                  class="act quiet"
                  onclick={() => {
                    rows = rows.filter((_, at) => at !== index);
                    void judge();
                  }}
                  aria-label="Take {row.number} off">Take off</button
                >
                {#if verdicts[index]}<p class="stop small">{verdicts[index]}</p>{/if}
              </li>
            {/each}
          </ul>
        {/if}
        {#if done}<p class="done" role="status">
            ✓ {count(done.marks.length, 'lot or serial', 'lots and serials')} back on
            <a class="number" href="/events/{done.event.id}">{done.event.document}</a>, held until
            somebody decides.
            {#if sent}{sent.marks.length === 1
                ? 'Another goes out in its place'
                : `${sent.marks.length} others go out in their place`}:
              <a href="/events/{sent.event.id}">the delivery</a>.{/if}
          </p>{/if}
      {:else}<p class="soft">Your role reads returns; it does not book them.</p>{/if}
      <ReturnedLately returns={data.returns} mayDecide={data.mayDecide} />
    </div>
  {/snippet}
</Working>

<style>
  .returns {
    padding: 14px 18px 24px;
    display: grid;
    gap: 12px;
    align-content: start;
  }
  .fields {
    display: flex;
    flex-wrap: wrap;
    gap: 12px;
  }
  .wide {
    flex: 1;
    min-width: 220px;
  }
  .scan {
    width: 100%;
    height: 48px;
    font-size: 18px;
  }
  .rows li {
    display: grid;
    grid-template-columns: auto auto 1fr auto;
    gap: 4px 14px;
    align-items: center;
    padding: 8px 10px;
    border: 1px solid var(--line);
    border-bottom: 0;
    background: var(--panel);
  }
  .rows li:last-child {
    border-bottom: 1px solid var(--line);
  }
  .rows .bad {
    background: var(--rust-pale);
  }
  .rows p {
    grid-column: 1 / -1;
  }
  .amount {
    width: 150px;
    height: 34px;
  }
  .note {
    background: var(--slate-pale);
    padding: 8px 12px;
  }
  .done {
    background: var(--sea-pale);
    color: var(--sea);
    padding: 10px 12px;
    font-weight: 600;
  }
  .big {
    font-size: 23px;
  }
  .end {
    margin-left: auto;
  }
</style>
