<!-- One part of an account: what it is at the left, how it stands and what may be done at the right. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { title, says, children }: { title: string; says: string; children: Snippet } = $props();
</script>

<section aria-label={title}>
  <div>
    <h2>{title}</h2>
    <p class="small soft">{says}</p>
  </div>
  <div class="of">{@render children()}</div>
</section>

<style>
  section {
    display: grid;
    grid-template-columns: 260px minmax(0, 1fr);
    gap: 8px 32px;
    padding-block: 16px;
    border-top: 1px solid var(--line);
  }
  h2 {
    font-size: 16px;
    color: var(--ink);
  }
  .of {
    display: grid;
    gap: 12px;
    align-content: start;
  }
  .of :global(li) {
    display: flex;
    gap: 4px 16px;
    align-items: center;
    flex-wrap: wrap;
    padding-block: 6px;
    border-bottom: 1px solid #ebe5da;
  }
  .of :global(li .act) {
    margin-left: auto;
  }
  @media (max-width: 700px) {
    section {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
