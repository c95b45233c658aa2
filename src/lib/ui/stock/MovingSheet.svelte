<!-- What goes from where to where: scanned, pasted, or all that waits at a dock. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import { onMount, untrack } from 'svelte';
  import { page } from '$app/state';
  import type { Lying } from '../../core/stock/lying.ts';
  import { BookingSheet } from '../bench/booking-sheet.svelte.ts';
  import Refused from '../bench/Refused.svelte';
  import DockNotes from '../dock/DockNotes.svelte';
  import { DockSheet } from '../dock/dock-sheet.svelte.ts';
  import LeftApart from '../dock/LeftApart.svelte';
  import { waiting } from '../dock/waiting.svelte.ts';
  import { refresh } from '../frame/refresh.ts';
  import { scanTarget } from '../frame/scan-target.svelte.ts';
  import { count, sayTime } from '../parts/say.ts';
  import { findLying } from './find-lying.ts';
  import LookedForLater from './LookedForLater.svelte';
  import ScanNumbers from './ScanNumbers.svelte';
  import MovingParts from './MovingParts.svelte';
  import MovingUnits from './MovingUnits.svelte';
  import { MovingList } from './moving-list.svelte.ts';
  import {
    goes,
    linesOf,
    splitPart,
    verdictsOf,
    withKept,
    type KeptParts,
    type Part
  } from './moving.ts';

  interface Props {
    kind: 'put away' | 'move';
    /** Name its draft is kept under. */
    sheet: string;
    /** A place that everything is taken from at once. */
    takes?: string | null;
    /** What waits, each with where it should go. */
    begin: readonly Part[];
    /** Why a part should go where it is proposed, by its mark. */
    why?: ReadonlyMap<string, string>;
    places: readonly { code: string; name: string; siteName: string }[];
    draft: { body: unknown; keptAt: string | null };
    today: string;
    mayBook: boolean;
    document: string;
    /** Said where nothing is on the list. */
    none: string;
  }
  let {
    kind,
    sheet,
    begin,
    takes = null,
    why,
    places,
    draft,
    today,
    mayBook,
    document,
    none
  }: Props = $props();

  const kept = untrack(() => draft.body as KeptParts | null);
  const dock = untrack(() =>
    mayBook
      ? new DockSheet<KeptParts>({
          ...{ login: page.data.actor.login, sheet, document, isApart: true, kind: 'moves' },
          ...{ href: kind === 'move' ? '/move' : '/put-away', known: '/move/known' },
          restore: (body) => list.restore(body)
        })
      : undefined
  );
  const list = untrack(
    () =>
      new MovingList({
        kind,
        begin: kind === 'put away' ? withKept(begin, kept?.parts ?? []) : (kept?.parts ?? []),
        kept,
        places: () => places.map((place) => place.code),
        today: () => today,
        find: (asked) => findLying(asked, async () => (await dock?.known()) ?? null),
        changed: () => {
          booked = '';
          work.changed();
        }
      })
  );
  let booked = $state('');
  /** The place that everything is taken from: chosen, and taken at once. */
  let whole = $state('');

  const going = $derived(list.parts.filter(goes));
  const many = $derived(going.length + list.units.filter((unit) => unit.to !== '').length);
  const work = new BookingSheet<KeptParts>({
    kind: 'moves',
    sheet: untrack(() => sheet),
    body: () => ({ parts: list.parts, units: list.units, later: list.later, document }),
    request: () => {
      const carried = list.units.filter((unit) => unit.to !== '');
      if (going.length + carried.length === 0) return null;
      return {
        document: going[0] && kind === 'put away' ? (paperOf(going[0]) ?? document) : document,
        kind,
        lines: linesOf(list.parts),
        ...(carried.length > 0 ? { units: carried } : {})
      };
    },
    kept: untrack(() => ({ ...(kept?.key ? { key: kept.key } : {}), keptAt: draft.keptAt })),
    readonly: untrack(() => !mayBook),
    dock
  });
  const paperOf = ({ row }: Part): string | null =>
    (row as Lying & { document?: string | null }).document ?? null;
  const verdicts = $derived(verdictsOf(list.parts, work.faults, work.notes));
  const elsewhere = $derived(work.faults.filter((fault) => !fault.path.startsWith('lines[')));
  const draftSays = $derived.by(() => {
    if (dock?.onlyHere) return 'kept on this device only';
    if (work.keeping) return 'keeping draft …';
    return work.keptAt ? `draft kept ${sayTime(work.keptAt)}` : '';
  });
  const lineSays = $derived(dock?.isReady ? 'works without a line' : '');
  const faulty = $derived(
    [...verdicts].flatMap(([at, one]) => (one.stop ? [at] : [])).sort((a, b) => a - b)
  );
  let table: MovingParts | undefined = $state();
  let shown = -1;
  function nextFault(): void {
    shown = faulty.find((at) => at > shown) ?? faulty[0] ?? -1;
    if (shown >= 0) void table?.focusPart(shown);
  }

  async function book(): Promise<void> {
    if (many === 0) return;
    const lines = many;
    const [request, left] = [work.request(), list.staying];
    const answer = await work.book();
    if (!answer) return;
    void dock?.moved(request!);
    booked = `${count(lines, 'line')} ${kind === 'put away' ? 'put away' : 'moved'}, as event ${answer.event.id}.`;
    await refresh();
    list.begin(kind === 'put away' ? begin : left);
  }
  const bookInTurn = (): void => void list.inTurn(book);

  /** What goes is left on this device, and the rest stays on the list. */
  async function leave(): Promise<void> {
    const lines = many;
    const [request, rest] = [work.request()!, list.staying];
    await work.leaveHere();
    await dock!.moved(request);
    list.begin(rest);
    work.changed();
    booked = `${count(lines, 'line')} left on this device; booked when the line is back. Go on with the next.`;
  }

  // Also where somebody is here already and names another place.
  $effect(() => {
    const place = takes;
    if (place && mayBook) untrack(() => void list.takeAllAt(place));
  });
  // What was not known here is looked for as soon as somebody can be asked.
  $effect(() => {
    if (!waiting.isLost && list.later.length > 0) untrack(() => void list.lookLater());
  });

  onMount(() => {
    if (mayBook)
      scanTarget.current = {
        offer: (scanned) => `${kind === 'put away' ? 'Put away' : 'Move'} ${scanned}`,
        take: (scanned) => void list.take(scanned)
      };
    void work.openKeptHere();
    if (list.parts.length > 0) work.judgeSoon();
    const stop = work.keys([
      { key: 'Ctrl+Enter', says: 'Book what is ticked', act: bookInTurn },
      { key: 'n', says: 'Next fault', act: nextFault }
    ]);
    return () => {
      scanTarget.current = null;
      stop();
      dock?.close();
    };
  });
</script>

{#if booked}<p class="kept" role="status">✓ {booked}</p>{/if}
{#if mayBook}
  <div class="scan">
    <ScanNumbers
      label="scan or paste numbers, a range A1..A9, cartons; then the place"
      onscan={(scanned) => void list.take(scanned)}
    >
      {#if kind === 'move'}<label class="stack"
          >everything at<PlaceChoice
            {places}
            bind:value={whole}
            none="choose a place"
            onchange={(place) => {
              whole = '';
              if (place) void list.takeAllAt(place);
            }}
          /></label
        >{/if}
    </ScanNumbers>
  </div>
{/if}
{#if list.wrong}<p class="refused" role="alert">{list.wrong}</p>{/if}
{#if list.said}<p class="said" role="status">{list.said}</p>{/if}
{#if list.offered}<p class="said">
    Nothing is waiting for a place.
    <button class="act" onclick={() => void list.takeAllAt(list.offered!)}
      >Take everything at {list.offered}</button
    >
  </p>{/if}
<Refused refusal={work.refusal} faults={elsewhere} />
{#if lineSays && list.parts.length + list.units.length === 0}<p class="soft small ready">
    {lineSays}
  </p>{/if}
{#if dock}
  <DockNotes
    {dock}
    unreachable={work.refusal?.status === 0}
    faults={work.faults.length}
    onleave={() => void list.inTurn(leave)}
    ontake={(body, key) => work.takeKept(body, key)}
  />
  <div class="left">
    <LeftApart
      refused={dock.refused}
      again={{
        says: 'Put it on the sheet again',
        act: ({ body }) => list.takeUpAgain(body as KeptParts)
      }}
    />
  </div>
{/if}
<LookedForLater numbers={list.later} ondrop={(number) => list.dropLater(number)} />
<MovingUnits units={list.units} {places} onchange={(next) => list.putUnits(next)} />
{#if list.parts.length === 0 && list.units.length === 0}
  <p class="soft empty">{none}</p>
{:else}
  <MovingParts
    bind:this={table}
    parts={list.parts}
    {verdicts}
    {places}
    picked={list.picked}
    {why}
    {mayBook}
    {today}
    verb={kind === 'put away' ? 'Put' : 'Move'}
    onset={(at, change) => list.set(at, change)}
    onsplit={(at) => list.put(splitPart(list.parts, at))}
    ondrop={kind === 'move' ? (at) => list.put(list.parts.toSpliced(at, 1)) : null}
  />
  {#if mayBook}
    <footer>
      <span
        ><b class="big number">{many}</b> of {list.parts.length + list.units.length} go to {count(
          new Set(
            [...going.map((part) => part.to), ...list.units.map((unit) => unit.to)].filter(Boolean)
          ).size,
          'place'
        )}</span
      >
      {#if faulty.length > 0}<span class="stop"
          ><b class="big number">{faulty.length}</b> cannot go
          <button class="next" onclick={nextFault}>next fault</button></span
        >{/if}
      {#if list.picked.size > 0}<span class="soft small"
          >{list.picked.size} scanned; scan the place they go to</span
        >{/if}
      <span class="soft small" role="status"
        >{[draftSays, lineSays].filter(Boolean).join(' · ')}</span
      >
      <button class="act main" disabled={many === 0 || work.booking} onclick={bookInTurn}
        >{work.booking
          ? 'Booking …'
          : `${kind === 'put away' ? 'Put' : 'Move'} ${many}${kind === 'put away' ? ' away' : ''}`}</button
      >
    </footer>
  {/if}
{/if}

<style>
  .next {
    border: 0;
    background: none;
    color: inherit;
    text-decoration: underline;
    cursor: pointer;
    min-height: 32px;
  }
  .left {
    --left-margin: 0 22px 8px;
  }
  .scan {
    padding: 0 22px 10px;
  }
  .kept,
  .said,
  .ready,
  .empty {
    padding: 2px 22px 8px;
  }
  .kept,
  .said {
    color: var(--sea);
    font-weight: 600;
  }
  .refused {
    margin: 0 22px 8px;
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
    z-index: 3;
  }
  footer .act {
    margin-left: auto;
  }
  .big {
    font-size: 23px;
    font-family: var(--sans);
  }
  @media (max-width: 700px) {
    .scan {
      padding: 0 12px 8px;
    }
    footer .act {
      width: 100%;
      justify-content: center;
      min-height: 48px;
    }
  }
</style>
