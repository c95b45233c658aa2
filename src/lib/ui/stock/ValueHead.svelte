<!-- The two sides of value: as it stands, and what changed it. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { page } from '$app/state';
  import StockNav from './StockNav.svelte';

  let { children }: { children: Snippet } = $props();
  const SIDES = [
    ['/value', 'As it stands'],
    ['/value/changes', 'What changed it']
  ] as const;
</script>

<StockNav />
<div class="screen">
  <div class="top">
    <h1>Value</h1>
    <nav aria-label="Value">
      {#each SIDES as [href, name] (href)}<a
          {href}
          aria-current={page.url.pathname === href ? 'page' : undefined}>{name}</a
        >{/each}
    </nav>
  </div>
  {@render children()}
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    gap: 16px;
  }
  .top {
    display: flex;
    align-items: baseline;
    gap: 22px;
  }
  nav {
    display: flex;
    gap: 16px;
  }
  nav a {
    color: var(--ink-soft);
    text-decoration: none;
    padding: 6px 0;
  }
  nav a[aria-current] {
    color: var(--ink);
    font-weight: 600;
    border-bottom: 2px solid var(--brass);
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
      overflow-x: auto;
    }
  }
</style>
