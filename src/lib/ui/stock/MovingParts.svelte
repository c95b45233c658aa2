<!-- The things of a move, one below the other, each with what is said of it. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import { tick } from 'svelte';
  import { sayDistance } from '../../core/calendar/say-day.ts';
  import type { Lying } from '../../core/stock/lying.ts';
  import { partKey, type Part } from './moving.ts';
  import PartAmount from './PartAmount.svelte';
  import PartTag from './PartTag.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    parts: readonly Part[];
    /** What is said of a part, by its place in the list. */
    verdicts: ReadonlyMap<number, { stop: boolean; text: string }>;
    places: readonly { code: string; name: string; siteName: string }[];
    picked: ReadonlySet<number>;
    why?: ReadonlyMap<string, string> | undefined;
    mayBook: boolean;
    today: string;
    verb: string;
    onset: (at: number, change: Partial<Part>) => void;
    onsplit: (at: number) => void;
    ondrop: ((at: number) => void) | null;
  }
  let {
    parts,
    verdicts,
    places,
    picked,
    why,
    mayBook,
    today,
    verb,
    onset,
    onsplit,
    ondrop
  }: Props = $props();

  /** So many are drawn at once; all of them are booked. */
  const STEP = 200;
  let most = $state(STEP);
  let table: HTMLTableElement;

  /** Brings a part into view and puts the focus on it. */
  export async function focusPart(at: number): Promise<void> {
    most = Math.max(most, at + 1);
    await tick();
    const row = table.querySelector(`[data-part="${at}"]`);
    row?.scrollIntoView({ block: 'center' });
    row?.querySelector<HTMLElement>('.amount, select, [list]')?.focus();
  }
  const since = (row: Lying) => row as Lying & { since?: string; document?: string | null };
</script>

<WideTable of="what is moved">
  <table class="plain middle" bind:this={table}>
    <thead
      ><tr
        ><th scope="col"><span class="visually-hidden">Goes</span></th><th scope="col">What</th><th
          scope="col">Lies at</th
        ><th scope="col" class="right">How much</th><th scope="col">Goes to</th><th scope="col"
          ><span class="visually-hidden">Split or leave out</span></th
        ></tr
      ></thead
    >
    <tbody>
      {#each parts.slice(0, most) as part, at (`${partKey(part.row)} ${at}`)}
        {@const name = part.row.number ?? part.row.product}
        {@const verdict = verdicts.get(at)}
        {@const from = since(part.row)}
        <tr data-part={at} class:picked={picked.has(part.row.mark)} class:stopped={verdict?.stop}>
          <td class="tick"
            ><input
              type="checkbox"
              checked={part.going}
              disabled={!mayBook}
              aria-label="{verb} {name}{verb === 'Put' ? ' away' : ''}"
              onchange={(event) => onset(at, { going: event.currentTarget.checked })}
            /></td
          >
          <td><PartTag row={part.row} /></td>
          <td
            >{part.row.fromName}{#if from.since}<br /><span class="small soft"
                ><span class="number">{from.document ?? ''}</span>, {sayDistance(
                  from.since,
                  today
                )}</span
              >{/if}</td
          >
          <td class="right"
            ><PartAmount {part} {mayBook} onset={(change) => onset(at, change)} />
            <span class="small soft">{part.row.unit}</span></td
          >
          <td
            ><PlaceChoice
              {places}
              value={part.to}
              none="choose a place"
              label="Where {name} goes"
              disabled={!mayBook}
              onchange={(to) => onset(at, { to, going: to !== '' })}
            />{#if verdict}<br /><span class={['small', verdict.stop ? 'stop' : 'soft']}
                >{verdict.text}</span
              >{:else if why?.get(`${partKey(part.row)} ${part.to}`)}<br /><span class="small soft"
                >{why.get(`${partKey(part.row)} ${part.to}`)}</span
              >{/if}</td
          >
          <td class="acts"
            >{#if part.row.kind !== 'serial' && mayBook}<button
                class="act quiet"
                aria-label="Split {name} over two places"
                onclick={() => onsplit(at)}>Split</button
              >{/if}{#if ondrop && mayBook}<button
                class="act quiet"
                aria-label="Leave {name} out"
                onclick={() => ondrop(at)}>✕</button
              >{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</WideTable>
{#if parts.length > most}<p class="more">
    <button class="act" onclick={() => (most += STEP)}
      >Show {Math.min(STEP, parts.length - most)} more</button
    >
    <span class="soft small"
      >{most} of {parts.length} rows are shown; all that are ticked are booked.</span
    >
  </p>{/if}

<style>
  table {
    margin: 0 22px;
    width: calc(100% - 44px);
  }
  .tick {
    width: 40px;
  }
  .tick input {
    width: 24px;
    height: 24px;
    accent-color: var(--brass);
  }
  tr.picked {
    background: var(--brass-pale);
  }
  tr.stopped {
    background: var(--rust-pale);
  }
  .acts {
    white-space: nowrap;
  }
  .more {
    padding: 10px 22px;
    display: flex;
    gap: 14px;
    align-items: center;
  }
  @media (max-width: 700px) {
    table {
      margin: 0 12px;
      width: calc(100% - 24px);
    }
    table,
    tbody {
      display: block;
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
      border: 0 !important;
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
    td :global(select),
    td :global(.typed) {
      width: 100%;
      min-height: 44px;
    }
  }
</style>
