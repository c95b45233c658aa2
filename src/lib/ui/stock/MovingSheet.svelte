<!-- What goes from where to where: scanned, pasted, or all that waits at a dock. -->
<script lang="ts">
  import { inTurn } from '../../core/in-turn.ts';
  import { onMount, untrack } from 'svelte';
  import { refresh } from '../frame/refresh.ts';
  import type { MoveUnit } from '../../core/ledger/request.ts';
  import type { Lying } from '../../core/stock/lying.ts';
  import { BookingSheet } from '../bench/booking-sheet.svelte.ts';
  import Refused from '../bench/Refused.svelte';
  import { messagesOf, send } from '../frame/api.ts';
  import { scanTarget } from '../frame/scan-target.svelte.ts';
  import { count, sayTime } from '../parts/say.ts';
  import ScanNumbers from './ScanNumbers.svelte';
  import MovingParts from './MovingParts.svelte';
  import MovingUnits from './MovingUnits.svelte';
  import {
    addParts,
    goes,
    linesOf,
    sayCut,
    sayMissing,
    sendTo,
    splitPart,
    verdictsOf,
    withKept,
    type KeptParts,
    type Part
  } from './moving.ts';
  import { linesOfScan, readScans } from './scans.ts';

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
  const beginning = (): Part[] =>
    kind === 'put away' ? withKept(begin, kept?.parts ?? []) : [...(kept?.parts ?? [])];
  let parts = $state.raw<Part[]>(untrack(beginning));
  let units = $state.raw<MoveUnit[]>(kept?.units ?? []);
  let said = $state('');
  let wrong = $state('');
  let booked = $state('');
  /** The place whose content may be taken whole. */
  let offered = $state<string | null>(null);
  let picked = $state.raw<ReadonlySet<number>>(new Set());

  const going = $derived(parts.filter(goes));
  const many = $derived(going.length + units.filter((unit) => unit.to !== '').length);
  const work = new BookingSheet<KeptParts>({
    kind: 'moves',
    sheet: untrack(() => sheet),
    body: () => ({ parts, units, document }),
    request: () => {
      const carried = units.filter((unit) => unit.to !== '');
      if (going.length + carried.length === 0) return null;
      return {
        document: going[0] && kind === 'put away' ? (paperOf(going[0]) ?? document) : document,
        kind,
        lines: linesOf(parts),
        ...(carried.length > 0 ? { units: carried } : {})
      };
    },
    kept: untrack(() => ({ ...(kept?.key ? { key: kept.key } : {}), keptAt: draft.keptAt })),
    readonly: untrack(() => !mayBook)
  });
  const paperOf = ({ row }: Part): string | null =>
    (row as Lying & { document?: string | null }).document ?? null;
  const verdicts = $derived(verdictsOf(parts, work.faults, work.notes));
  const elsewhere = $derived(work.faults.filter((fault) => !fault.path.startsWith('lines[')));
  const draftSays = $derived.by(() => {
    if (work.keeping) return 'keeping draft …';
    return work.keptAt ? `draft kept ${sayTime(work.keptAt)}` : '';
  });
  const faulty = $derived(
    [...verdicts].flatMap(([at, one]) => (one.stop ? [at] : [])).sort((a, b) => a - b)
  );
  let list: MovingParts | undefined = $state();
  let shown = -1;
  function nextFault(): void {
    shown = faulty.find((at) => at > shown) ?? faulty[0] ?? -1;
    if (shown >= 0) void list?.focusPart(shown);
  }

  function put(next: Part[]): void {
    parts = next;
    booked = '';
    work.changed();
  }
  const set = (at: number, change: Partial<Part>): void =>
    put(parts.with(at, { ...parts[at]!, ...change }));

  const turn = inTurn();
  /** However fast one scans: each finds what the one before put on the list. */
  const takeInTurn = (text: string): void => void turn(() => take(text));
  const addAllInTurn = (place: string): void => void turn(() => addAllAt(place));

  /** One scan, or a pasted column of them; a place sends what was scanned before it. */
  async function take(scanned: string): Promise<void> {
    [said, wrong, offered] = ['', '', null];
    let waiting: string[] = [];
    for (const line of linesOfScan(scanned, today)) {
      const place = places.find((one) => one.code.toUpperCase() === line.toUpperCase());
      if (!place) {
        waiting.push(line);
        continue;
      }
      if (waiting.length > 0) await addNumbers(waiting);
      waiting = [];
      toPlace(place.code);
    }
    if (waiting.length > 0) await addNumbers(waiting);
  }
  function toPlace(code: string): void {
    const loose = parts.filter((part) => part.going && part.to === '').length;
    if (picked.size > 0) {
      const chosen = picked;
      picked = new Set();
      put(
        parts.map((part) => (chosen.has(part.row.mark) ? { ...part, to: code, going: true } : part))
      );
    } else if (loose > 0 || units.some((unit) => unit.to === '')) {
      units = units.map((unit) => (unit.to === '' ? { ...unit, to: code } : unit));
      put(sendTo(parts, code));
    } else {
      offered = code;
      return;
    }
    said = `They go to ${code}.`;
  }

  async function addNumbers(asked: readonly string[]): Promise<void> {
    const { cartons, numbers, wrong: said } = readScans(asked);
    for (const sscc of cartons)
      if (!units.some((unit) => unit.sscc === sscc)) units = [...units, { sscc, to: '' }];
    const missing = numbers.length > 0 ? await addLying({ numbers }, numbers) : '';
    if (numbers.length === 0) work.changed();
    wrong = [wrong, missing, ...said].filter(Boolean).join(' ');
  }

  async function addAllAt(place: string): Promise<void> {
    wrong = await addLying({ place }, []);
  }
  /** Puts what lies there on the list. @returns what is wrong, or missing of it */
  async function addLying(
    asked: { numbers: string[] } | { place: string },
    names: readonly string[]
  ): Promise<string> {
    offered = null;
    const reply = await send<{ rows: Lying[]; total: number }>('POST', '/api/v1/lying', asked);
    if (!reply.ok) return messagesOf(reply.refusal).join(' ');
    const { rows, total } = reply.body;
    const missing = rows.length < total ? sayCut(rows.length, total) : sayMissing(names, rows);
    if (rows.length === 0) return missing;
    const before = parts;
    const { parts: next, added } = addParts(parts, rows, '');
    if (kind === 'put away' && picked.size === 0)
      put(next.map((part) => ({ ...part, going: rows.some((row) => row.mark === part.row.mark) })));
    else put(next);
    picked = kind === 'put away' ? new Set([...picked, ...rows.map((row) => row.mark)]) : picked;
    said =
      added > 0 || before.length === next.length
        ? `${count(rows.length, 'row')} taken. Scan the place they go to.`
        : '';
    return missing;
  }

  async function book(): Promise<void> {
    if (many === 0) return;
    const lines = many;
    const answer = await work.book();
    if (!answer) return;
    booked = `${count(lines, 'line')} ${kind === 'put away' ? 'put away' : 'moved'}, as event ${answer.event.id}.`;
    [said, wrong] = ['', ''];
    units = [];
    await refresh();
    parts = kind === 'put away' ? [...begin] : [];
  }

  /** After all that was scanned, however fast: a key does not overtake a scan. */
  const bookInTurn = (): void => void turn(book);

  // Also where somebody is here already and names another place.
  $effect(() => {
    const place = takes;
    if (place && mayBook) untrack(() => addAllInTurn(place));
  });

  onMount(() => {
    if (mayBook)
      scanTarget.current = {
        offer: (scanned) => `${kind === 'put away' ? 'Put away' : 'Move'} ${scanned}`,
        take: takeInTurn
      };
    if (parts.length > 0) work.judgeSoon();
    const stop = work.keys([
      { key: 'Ctrl+Enter', says: 'Book what is ticked', act: bookInTurn },
      { key: 'n', says: 'Next fault', act: nextFault }
    ]);
    return () => {
      scanTarget.current = null;
      stop();
    };
  });
</script>

{#if booked}<p class="kept" role="status">✓ {booked}</p>{/if}
{#if mayBook}
  <div class="scan">
    <ScanNumbers
      label="scan or paste numbers, a range A1..A9, cartons; then the place"
      onscan={takeInTurn}
    >
      {#if kind === 'move'}<label class="stack"
          >everything at<select
            class="field"
            value=""
            onchange={(event) => {
              const place = event.currentTarget.value;
              event.currentTarget.value = '';
              if (place) addAllInTurn(place);
            }}
            ><option value="">choose a place</option>{#each places as place (place.code)}<option
                value={place.code}>{place.siteName}, {place.name}</option
              >{/each}</select
          ></label
        >{/if}
    </ScanNumbers>
  </div>
{/if}
{#if wrong}<p class="refused" role="alert">{wrong}</p>{/if}
{#if said}<p class="said" role="status">{said}</p>{/if}
{#if offered}<p class="said">
    Nothing is waiting for a place.
    <button class="act" onclick={() => addAllInTurn(offered!)}>Take everything at {offered}</button>
  </p>{/if}
<Refused refusal={work.refusal} faults={elsewhere} />
<MovingUnits
  {units}
  {places}
  onchange={(next) => {
    units = next;
    work.changed();
  }}
/>
{#if parts.length === 0 && units.length === 0}
  <p class="soft empty">{none}</p>
{:else}
  <MovingParts
    bind:this={list}
    {parts}
    {verdicts}
    {places}
    {picked}
    {why}
    {mayBook}
    {today}
    verb={kind === 'put away' ? 'Put' : 'Move'}
    onset={set}
    onsplit={(at) => put(splitPart(parts, at))}
    ondrop={kind === 'move' ? (at) => put(parts.toSpliced(at, 1)) : null}
  />
  {#if mayBook}
    <footer>
      <span
        ><b class="big number">{many}</b> of {parts.length + units.length} go to {count(
          new Set(
            [...going.map((part) => part.to), ...units.map((unit) => unit.to)].filter(Boolean)
          ).size,
          'place'
        )}</span
      >
      {#if faulty.length > 0}<span class="stop"
          ><b class="big number">{faulty.length}</b> cannot go
          <button class="next" onclick={nextFault}>next fault</button></span
        >{/if}
      {#if picked.size > 0}<span class="soft small"
          >{picked.size} scanned; scan the place they go to</span
        >{/if}
      <span class="soft small" role="status">{draftSays}</span>
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
  .scan {
    padding: 0 22px 10px;
  }
  .kept,
  .said,
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
