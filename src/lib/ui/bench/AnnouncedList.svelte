<!-- The numbers a supplier announced for a line: ticked off as they are scanned, the missing first. -->
<script lang="ts">
  import AndMore from '../parts/AndMore.svelte';
  import { announcedOpen, type SheetLine } from './line-rows.ts';
  import type { Row } from './grid.ts';

  interface Props {
    line: SheetLine;
    rows: readonly Row[];
    mayTake: boolean;
    ontake: () => void;
    unexpected: readonly string[];
  }
  let { line, rows, mayTake, ontake, unexpected }: Props = $props();
  const open = $derived(announcedOpen(rows, line));
  const arrived = $derived(line.announced.filter((one) => one.arrived).length);
  const ticked = $derived(line.announced.length - open.length);
  const MOST = 24;
</script>

<section>
  <h2>Announced by the supplier</h2>
  <p class="count">
    <b class="number">{ticked}</b> of {line.announced.length} ticked{#if arrived > 0}, {arrived} of them
      booked before{/if}
  </p>
  {#if open.length > 0}
    <p class="small soft">{open.length === 1 ? 'Missing:' : `${open.length} missing:`}</p>
    <!-- A list that scrolls must be reached by the keyboard. -->
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <ul tabindex="0" aria-label="Announced numbers that are missing">
      {#each open.slice(0, MOST) as one (`${one.lot} ${one.serial}`)}<li class="number">
          {one.serial ?? one.lot}
        </li>{/each}
    </ul>
    <AndMore shown={MOST} total={open.length} />
    {#if mayTake}<button class="act" onclick={ontake}>All {open.length} are here</button>{/if}
  {:else}<p class="small good">✓ Nothing is missing.</p>{/if}
  {#if unexpected.length > 0}<p class="mind small unexpected">
      <b>Not announced:</b>
      <span class="number">{unexpected.slice(0, 8).join(', ')}</span>{unexpected.length > 8
        ? ` and ${unexpected.length - 8} more`
        : ''}
    </p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 6px;
  }
  .count {
    font-size: 14px;
  }
  ul {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 10px;
    max-height: 150px;
    overflow: auto;
  }
  li {
    font-size: 13.5px;
  }
  .unexpected {
    overflow-wrap: anywhere;
  }
</style>
