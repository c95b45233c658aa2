<script lang="ts">
  import { inTurn } from '$lib/core/in-turn.ts';
  import { onMount, tick, untrack } from 'svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { numberOfScan } from '$lib/core/gs1/number-of-scan.ts';
  import { parseQuantity, formatQuantity, quantity } from '$lib/core/quantity/quantity.ts';
  import { send } from '$lib/ui/frame/api.ts';
  import Live from '$lib/ui/frame/Live.svelte';
  import { askBeforeLeaving } from '$lib/ui/frame/ask-before-leaving.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, dayOfInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import CountTable from '$lib/ui/stock/CountTable.svelte';
  import { differsFrom } from '$lib/ui/stock/count-verdict.ts';
  import ApproveCount from '$lib/ui/stock/ApproveCount.svelte';
  import CountUnknown from '$lib/ui/stock/CountUnknown.svelte';
  import { Counting, countKey, type Countable } from '$lib/ui/stock/counting.svelte.ts';

  let { data } = $props();
  type Line = (typeof data.lines.rows)[number];

  const work = new Counting(
    untrack(() => data.head.document),
    () => refresh()
  );
  let place = $state(
    untrack(() => data.head.places.find((one) => !one.doneAt)?.code ?? data.head.places[0]!.code)
  );
  let only = $state<'all' | 'to count' | 'off'>('all');
  let text = $state('');
  let said = $state('');
  /** A number that is on no list; and its product, where that is known. */
  let unknown = $state.raw<{ number: string; product: string } | null>(null);
  let sure = $state(false);
  askBeforeLeaving(() => work.waiting > 0);

  const here = $derived(data.head.places.find((one) => one.code === place)!);
  const ofPlace = $derived(data.lines.rows.filter((line) => line.place === place));
  const countedOf = (line: Line) => work.countedOf(line);
  const isOff = (line: Line): boolean => !data.hidden && differsFrom(line);
  /** Typed here and not in the list yet. */
  const added = $derived(
    [...work.entered.values()]
      .filter(({ line }) => line.place === place)
      .filter(({ line }) => !ofPlace.some((one) => countKey(one) === countKey(line)))
  );
  const shown = $derived(
    ofPlace.filter(
      (line) =>
        (only === 'all' || (only === 'off' ? isOff(line) : countedOf(line) === null)) &&
        `${line.product} ${line.name} ${line.lot ?? ''} ${line.serial ?? ''}`
          .toUpperCase()
          .includes(text.trim().toUpperCase())
    )
  );
  const MOST = 300;
  const isCut = $derived(data.lines.rows.length < data.lines.total);
  const nothingHere = $derived.by(() => {
    if (ofPlace.length > 0) return 'Nothing of that.';
    if (isCut) return 'Of this place nothing is listed here. Scan what lies there.';
    return data.hidden
      ? 'Scan all that lies here, one after the other.'
      : 'By the ledger nothing lies here. Scan what does.';
  });
  const toCount = $derived(ofPlace.filter((line) => countedOf(line) === null).length);
  const counted = $derived(data.lines.rows.filter((line) => line.counted !== null).length);

  /** `+3` adds to what was counted before: two people count one lot at two ends of a rack. */
  function enter(line: Line, typed: string): void {
    said = '';
    const plus = /^\+\s*(\d.*)$/.exec(typed.trim())?.[1];
    const more = plus === undefined ? null : parseQuantity(plus);
    const amount =
      more === null ? typed.trim() : formatQuantity(more.plus(quantity(line.counted ?? '0')));
    if (amount === '' && line.counted === null) work.drop(line);
    else void work.enter(asCountable(line), amount === '' ? null : amount);
  }
  const asCountable = ({ product, place: at, lot, serial }: Line): Countable => ({
    product,
    place: at,
    lot,
    serial
  });

  async function focusLine(line: Countable): Promise<void> {
    only = 'all';
    text = '';
    await tick();
    const field = document.querySelector<HTMLInputElement>(
      `[data-line="${CSS.escape(countKey(line))}"]`
    );
    field?.focus();
    field?.select();
  }

  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));

  /** A scan counts a serial, goes to a lot's field, or changes the place. */
  async function take(scan: string): Promise<void> {
    said = '';
    const number = numberOfScan(scan, data.today);
    const at = data.head.places.find((one) => one.code.toUpperCase() === number.toUpperCase());
    if (at) {
      place = at.code;
      said = `Counting at ${at.code}.`;
      return;
    }
    const line = ofPlace.find(
      (one) => (one.serial ?? one.lot ?? one.product).toUpperCase() === number.toUpperCase()
    );
    if (line) await countLine(line);
    else await lookUp(number);
  }
  async function countLine(line: Line): Promise<void> {
    if (line.kind !== 'serial') {
      await focusLine(line);
      return;
    }
    await work.enter(asCountable(line), '1');
    said = `${line.serial} is there.`;
  }

  /** A number that is not on the list: known elsewhere, or to nobody. */
  async function lookUp(number: string): Promise<void> {
    type Found = { product: string; kind: string; number: string | null; lot?: string };
    const reply = await send<{ marks: Found[] }>(
      'GET',
      `/api/v1/marks?q=${encodeURIComponent(number)}&limit=20`
    );
    const found = reply.ok
      ? reply.body.marks.filter((one) => one.number?.toUpperCase() === number.toUpperCase())
      : [];
    if (found.length !== 1) {
      unknown = { number, product: '' };
      return;
    }
    const one = found[0]!;
    const serial = one.kind === 'serial';
    const line: Countable = {
      product: one.product,
      place,
      lot: serial ? (one.lot ?? null) : one.number,
      serial: serial ? one.number : null
    };
    await add(line, serial ? '1' : null);
  }
  async function add(line: Countable, amount: string | null): Promise<void> {
    unknown = null;
    if (amount !== null) {
      await work.enter(line, amount);
      said =
        work.notes.get(countKey(line)) ?? `${line.serial ?? line.lot ?? line.product} is counted.`;
      return;
    }
    unknown = { number: line.lot ?? line.product, product: line.product };
  }

  async function allCounted(): Promise<void> {
    if (!sure && toCount > 0) {
      sure = true;
      return;
    }
    sure = false;
    if (!(await work.done(place))) return;
    const next = data.head.places.find((one) => !one.doneAt);
    said = next ? `${place} is done. Next: ${next.code}.` : `All places are counted.`;
    if (next) place = next.code;
  }
  const doneSays = $derived.by(() => {
    if (here.doneAt && toCount === 0) return `${place} is done`;
    return sure ? 'Yes, all is counted' : `All of ${place} is counted`;
  });
  $effect(() => {
    void place;
    sure = false;
  });
  onMount(() => {
    if (data.mayCount)
      scanTarget.current = {
        offer: (scan) => `Count ${scan} at ${place}`,
        take: takeInTurn
      };
    return () => {
      scanTarget.current = null;
      work.stop();
    };
  });
  const recount = async (lines: readonly Countable[]): Promise<void> => {
    for (const line of lines) await work.enter(line, null);
    said = `${count(lines.length, 'line')} to be counted again.`;
  };
</script>

<svelte:head><title>Count {data.head.document} · Earmark</title></svelte:head>
<Live of={['counts']} />
<div class="screen">
  <div class="head">
    <h1>Count <span class="number">{data.head.document}</span></h1>
    <p class="soft">
      {#if data.head.state === 'open'}{sayQuantity(String(counted))}
        {data.hidden
          ? 'counted'
          : `of ${sayQuantity(String(data.lines.rows.length))} counted`}{data.hidden
          ? ' · blind: what should be there is not shown'
          : ` · ${data.lines.rows.filter(isOff).length} off`}{:else}{data.head.state} by {data.head
          .endedBy}, {sayDay(dayOfInstant(data.head.endedAt!))}{data.head.reason
          ? `: ${data.head.reason}`
          : ''}{/if}
    </p>
    <span class="acts">
      <a
        class="act"
        href="/api/v1/counts/{encodeURIComponent(data.head.document)}/sheet"
        target="_blank"
        rel="noopener">On paper</a
      >{#if data.head.event}<a class="act" href="/events/{data.head.event}">What it booked</a>{/if}
      {#if data.mayApprove}<a class="act" href="#approve">Approve …</a>{/if}
      <a class="act quiet" href="/count">All counts</a>
    </span>
  </div>
  <Cut
    shown={data.lines.rows.length}
    total={data.lines.total}
    of="lines of this count"
    rest="scan what is not among them, or count fewer places at a time"
  />
  <nav aria-label="Places">
    {#each data.head.places as one (one.code)}<button
        aria-pressed={one.code === place}
        onclick={() => (place = one.code)}
        ><b class="number">{one.code}</b>
        <span class="small">{one.doneAt ? `✓ ${one.doneBy}` : one.name}</span></button
      >{/each}
  </nav>
  {#if work.unreachable}<p class="refused" role="alert">
      Earmark cannot be reached. {count(work.waiting, 'entry', 'entries')} kept here, and sent when the
      line is back: leave this screen open.
    </p>{/if}
  {#each work.refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if said}<p class="said" role="status">{said}</p>{/if}
  {#if unknown !== null}
    <CountUnknown
      number={unknown.number}
      product={unknown.product}
      {place}
      products={data.products}
      factsAsked={data.factsAsked}
      onadd={(line, amount) => void add(line, amount)}
      oncancel={() => (unknown = null)}
    />
  {/if}
  <div class="filter">
    {#if data.mayCount}<form
        onsubmit={(event) => {
          event.preventDefault();
          const field = event.currentTarget.elements.namedItem('scan') as HTMLInputElement;
          const scan = field.value.trim();
          field.value = '';
          if (scan) takeInTurn(scan);
        }}
      >
        <label class="stack"
          >scan or type a number, or a place<input
            class="field number"
            name="scan"
            autocomplete="off"
            spellcheck="false"
          /></label
        ><button class="act">Count</button>
      </form>{/if}
    <label class="stack"
      >only<select class="field" bind:value={only}
        ><option value="all">everything here</option><option value="to count"
          >what is not counted yet</option
        >{#if !data.hidden}<option value="off">what is off</option>{/if}</select
      ></label
    >
    <label class="stack"
      >holding<input class="field" bind:value={text} placeholder="product or number" /></label
    >
  </div>
  <CountTable
    lines={shown.slice(0, MOST)}
    {added}
    {work}
    hidden={data.hidden}
    mayCount={data.mayCount}
    none={nothingHere}
    onenter={enter}
  />
  <Cut
    shown={Math.min(shown.length, MOST)}
    total={shown.length}
    of="lines here"
    rest="scan a number, or type what it holds"
  />
</div>
{#if data.mayCount}
  <footer>
    <span
      ><b class="big number">{toCount}</b>
      {data.hidden ? 'of its lots' : ''} not counted at
      <b class="number">{place}</b></span
    >
    {#if work.waiting > 0}<span class="soft small"
        >{count(work.waiting, 'entry', 'entries')} on the way</span
      >{/if}
    {#if sure}<span class="stop small"
        >What is not named{toCount > 0 ? ` (${toCount})` : ''} counts as not there.</span
      >{/if}
    <button
      class="act main"
      disabled={here.doneAt !== null && toCount === 0}
      onclick={() => turn(allCounted)}>{doneSays}</button
    >
  </footer>
{/if}
{#if data.mayApprove}
  <!-- Below the bar, which stays in sight while one counts and lies over nothing here. -->
  <div class="screen">
    <ApproveCount head={data.head} off={data.off} blind={data.hidden} onrecount={recount} />
  </div>
{/if}

<style>
  .screen {
    padding: 16px 24px 24px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
  }
  .head {
    display: flex;
    gap: 6px 20px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .acts {
    display: flex;
    gap: 12px;
    flex-wrap: wrap;
    margin-left: auto;
  }
  nav {
    display: flex;
    gap: 6px;
    overflow-x: auto;
  }
  nav button {
    display: grid;
    text-align: left;
    padding: 8px 12px;
    min-height: 44px;
    border: 1px solid var(--line);
    background: var(--paper);
    cursor: pointer;
    white-space: nowrap;
  }
  nav button[aria-pressed='true'] {
    background: var(--ink);
    color: var(--panel);
    border-color: var(--ink);
  }
  .said {
    color: var(--sea);
    font-weight: 600;
  }
  .filter,
  .filter form {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  footer {
    position: sticky;
    bottom: 0;
    border-top: 2px solid var(--ink);
    background: var(--paper);
    padding: 8px 22px;
    display: flex;
    gap: 18px;
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
    .screen {
      padding: 12px 12px 24px;
    }
    .filter label:not(form label) {
      display: none;
    }
    .filter form,
    .filter form label {
      flex: 1;
    }
    footer .act {
      width: 100%;
      min-height: 48px;
      justify-content: center;
    }
  }
</style>
