<!-- What goes wrong with the machine, for who looks after it. -->
<script lang="ts">
  import type { Trouble } from '$lib/core/operating/troubles.ts';

  interface Props {
    troubles: readonly Trouble[];
  }
  let { troubles }: Props = $props();
</script>

{#if troubles.length > 0}
  <section aria-label="Looking after Earmark">
    <h2>Looking after Earmark</h2>
    <ul>
      {#each troubles as trouble (trouble.code)}<li>
          <b>{trouble.says}</b>
          {trouble.mend}
        </li>{/each}
    </ul>
  </section>
{/if}

<style>
  section {
    border: 1px solid var(--rust);
    border-left-width: 4px;
    background: var(--panel);
    padding: 10px 16px;
    display: grid;
    gap: 6px;
  }
  h2 {
    font-size: 15px;
    color: var(--rust);
  }
  li {
    padding: 3px 0;
  }
</style>
