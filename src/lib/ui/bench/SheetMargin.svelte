<!-- The margin of a sheet: who else works on it, the whole message of the row in hand, the figures of its line, and what is on hand. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { RowVerdict } from './grid.ts';

  interface Props {
    others: readonly string[];
    row: number;
    verdict: (RowVerdict & { full: string }) | undefined;
    title: string;
    facts: readonly { says: string; value: string; number?: boolean }[];
    children: Snippet;
  }
  let { others, row, verdict, title, facts, children }: Props = $props();
</script>

<div class="aside">
  {#if others.length > 0}<p class="mind" role="status">
      {others.join(' and ')}
      {others.length === 1 ? 'has' : 'have'} a draft on this order too. Only what is booked first counts.
    </p>{/if}
  {#if verdict?.full}<section class="fault {verdict.tone}">
      <h2>Row {row + 1}</h2>
      <p>{verdict.full}</p>
    </section>{/if}
  <section>
    <h2>{title}</h2>
    <dl>
      {#each facts as { says, value, number } (says)}<div>
          <dt>{says}</dt>
          <dd class:number>{value}</dd>
        </div>{/each}
    </dl>
  </section>
  {@render children()}
</div>

<style>
  .aside {
    display: grid;
    gap: 16px;
  }
  .fault {
    padding: 10px 12px;
    border-left: 3px solid var(--rust);
    background: var(--rust-pale);
  }
  .fault.reason {
    border-color: #b98512;
    background: var(--amber);
  }
  .fault p {
    font-size: 14px;
  }
  dl div {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    padding: 2px 0;
  }
  dt {
    color: var(--ink-soft);
    font-size: 14px;
  }
  dd {
    font-weight: 600;
  }
</style>
