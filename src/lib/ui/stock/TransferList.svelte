<!-- Transfers: what is still to leave, what is under way, and what has arrived lately. -->
<script lang="ts">
  import { sayDistance } from '$lib/core/calendar/say-day.ts';
  import type { TransferRow } from '$lib/core/stock/transfer-row.ts';
  import Cut from '../parts/Cut.svelte';
  import { count } from '../parts/say.ts';

  interface Props {
    transfers: { rows: readonly TransferRow[]; total: number };
    today: string;
  }
  let { transfers, today }: Props = $props();
  const LATELY = 12;
  const toLeave = $derived(transfers.rows.filter((row) => row.toLeave > 0));
  const underWay = $derived(transfers.rows.filter((row) => row.marks > 0));
  const ended = $derived(transfers.rows.filter((row) => row.marks + row.toLeave === 0));
  const lately = $derived(ended.slice(0, LATELY));
  const listed = $derived(transfers.rows.length - ended.length + lately.length);
  const address = (row: TransferRow): string => `/transfer/${encodeURIComponent(row.document)}`;
</script>

{#snippet line(row: TransferRow, says: string)}
  <a href={address(row)}
    ><b class="number">{row.document}</b>
    <span class="soft small">{row.from} → {row.to}{says}</span></a
  >
{/snippet}

{#if toLeave.length > 0}
  <h2>To send <span>{toLeave.length}</span></h2>
  <ul data-list>
    {#each toLeave as row (row.document)}<li class:late={row.due !== null && row.due < today}>
        {@render line(
          row,
          ` · ${count(row.toLeave, 'product')} to leave${row.due ? `, due ${sayDistance(row.due, today)}` : ''}`
        )}
      </li>{/each}
  </ul>
{/if}
<h2>Under way <span>{underWay.length}</span></h2>
<ul data-list>
  {#each underWay as row (row.document)}<li>
      {@render line(
        row,
        ` · ${count(row.marks, 'lot or serial', 'lots and serials')} · left ${sayDistance(row.since!, today)}`
      )}
    </li>{:else}<li class="soft">
      Nothing is under way. What leaves a site stands here until it has arrived at the other.
    </li>{/each}
</ul>
{#if lately.length > 0}
  <h2>Ended lately</h2>
  <ul>
    {#each lately as row (row.document)}<li>{@render line(row, '')}</li>{/each}
  </ul>
{/if}
<Cut
  shown={listed}
  total={transfers.total}
  of="transfers"
  rest="type a number in the scan field to see others"
/>

<style>
  .late :global(.small) {
    color: var(--rust);
  }
</style>
