<!-- Returns by scan: each number finds its sale; what came back is held until it is decided. -->
<script lang="ts">
  import { inTurn } from '$lib/ui/frame/in-turn.ts';
  import { invalidateAll } from '$app/navigation';
  import { onMount, untrack } from 'svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { lineOfPath } from '$lib/core/faults/line-of-path.ts';
  import { looksLikeSymbol, readElementString } from '$lib/core/gs1/element-string.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { latest } from '$lib/ui/frame/latest.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';

  let { data } = $props();
  interface Back {
    product: string;
    kind: 'lot' | 'serial';
    number: string;
    quantity: string;
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
  let done = $state.raw<{ event: { id: number; document: string }; marks: unknown[] } | null>(null);
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
    verdicts = Object.fromEntries(
      reply.body.faults.flatMap((fault) => {
        const at = lineOfPath(fault.path);
        return at === null ? [] : [[at, fault.message]];
      })
    );
    refused = reply.body.faults
      .filter((fault) => !fault.path.startsWith('lines['))
      .map((fault) => fault.message);
    notes = reply.body.notes.map((note) => note.message);
  }
  async function bookIt(): Promise<void> {
    const reply = await send<typeof done & object>('POST', '/api/v1/returns', request, {
      'idempotency-key': key
    });
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      void judge();
      return;
    }
    done = reply.body;
    key = newKey();
    rows = [];
    reason = '';
    unsaved.kept();
    await invalidateAll();
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
<Working>
  {#snippet sheet()}
    <div class="returns">
      <h1>Take goods back</h1>
      {#if data.mayReturn}
        <div class="fields">
          <label class="stack"
            >return <input class="field number" bind:value={document} maxlength="60" /></label
          >
          <label class="stack"
            >to <select class="field" bind:value={place} onchange={judge}
              >{#each data.places as one (one.code)}<option value={one.code}
                  >{one.siteName}, {one.name}</option
                >{/each}</select
            ></label
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
        {#if said}<p class="said" role="alert">{said}</p>{/if}
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
          </p>{/if}
      {:else}<p class="soft">Your role reads returns; it does not book them.</p>{/if}
      <h2>Came back lately</h2>
      <div class="scroll">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">What</th><th scope="col">From</th><th scope="col">Return</th><th
                scope="col">Sold on</th
              ><th scope="col" class="right">Quantity</th><th scope="col">Now</th></tr
            ></thead
          >
          <tbody
            >{#each data.returns as row (`${row.event} ${row.mark}`)}
              <tr
                ><td
                  ><Tag
                    kind={row.kind}
                    number={row.number}
                    under="{row.product} {row.name}"
                    state={row.state}
                    href="/marks/{row.mark}"
                  /></td
                ><td
                  >{row.partner ?? ''}{#if row.reason}<br /><span class="small soft"
                      >“{row.reason}”</span
                    >{/if}</td
                ><td
                  ><a class="number" href="/events/{row.event}">{row.document}</a><br /><span
                    class="small soft">{sayDay(row.day)}</span
                  ></td
                ><td class="number">{row.soldOn}</td><td class="right number"
                  >{sayQuantity(row.quantity)} <span class="small soft">{row.unit}</span></td
                >
                <td
                  >{#if row.gone}<span class="soft">gone on</span
                    >{:else if row.state === 'held'}{#if data.mayDecide}<a
                        class="act"
                        href="/marks/{row.mark}">Decide</a
                      >{:else}<b class="stop">held</b>{/if}{:else if row.state === 'usable'}<span
                      class="good">✓ released</span
                    >{:else}{row.state}{/if}</td
                ></tr
              >
            {:else}<tr
                ><td colspan="6" class="soft"
                  >Nothing has come back yet. Scan the serial of a shipped unit above: it finds its
                  sale by itself.</td
                ></tr
              >{/each}</tbody
          >
        </table>
      </div>
    </div>
  {/snippet}
  {#snippet tally()}
    {#if data.mayReturn}<span
        ><b class="big number">{rows.length - Object.keys(verdicts).length}</b> to take back{#if Object.keys(verdicts).length > 0}&nbsp;·
          <b class="stop">{count(Object.keys(verdicts).length, 'fault')}</b>{/if}</span
      ><span class="end"
        ><button class="act main" disabled={rows.length === 0} onclick={bookIt}
          >Take back {rows.length}</button
        ></span
      >{/if}
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
    width: 100px;
    height: 34px;
  }
  .said {
    background: var(--amber);
    padding: 8px 12px;
    font-size: 14px;
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
  .scroll {
    overflow-x: auto;
  }
  td {
    vertical-align: middle !important;
  }
  .big {
    font-size: 23px;
  }
  .end {
    margin-left: auto;
  }
</style>
