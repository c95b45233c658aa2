<!-- A screen of the store: what goes on at the left, where one begins something at the right. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import StockNav from './StockNav.svelte';

  interface Props {
    title: string;
    goesOn: Snippet;
    begin: Snippet;
  }
  let { title, goesOn, begin }: Props = $props();
</script>

<StockNav />
<div class="page">
  <h1>{title}</h1>
  <div class="two">
    <section>{@render goesOn()}</section>
    <section>{@render begin()}</section>
  </div>
</div>

<style>
  .two {
    display: grid;
    grid-template-columns: minmax(260px, 1fr) minmax(0, 2fr);
    gap: 28px;
  }
  section {
    display: grid;
    gap: 10px;
    align-content: start;
  }
  section > :global(.act) {
    justify-self: end;
  }
  section :global(h2) {
    display: flex;
    justify-content: space-between;
    border-bottom: 1px solid var(--line);
    padding-bottom: 6px;
  }
  section :global(li a) {
    display: grid;
    gap: 2px;
    padding: 9px 0;
    border-bottom: 1px solid #ebe5da;
    text-decoration: none;
    color: var(--ink);
  }
  section :global(li a:hover) {
    background: var(--paper);
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
