<!-- What a store keeper does, one beside the other. -->
<script lang="ts">
  import { page } from '$app/state';
  const ITEMS = [
    ['/on-hand', 'On hand'],
    ['/move', 'Move'],
    ['/put-away', 'Put away'],
    ['/transfer', 'Transfers'],
    ['/count', 'Counts'],
    ['/opening', 'Opening stock']
  ] as const;
</script>

<nav aria-label="Store">
  {#each ITEMS as [href, name] (href)}<a
      {href}
      aria-current={page.url.pathname.startsWith(href) ? 'page' : undefined}>{name}</a
    >{/each}
</nav>

<style>
  nav {
    display: flex;
    gap: 4px;
    border-bottom: 1px solid var(--line);
    padding: 6px 20px 0;
    background: var(--paper);
    overflow-x: auto;
  }
  a {
    padding: 10px 14px;
    color: var(--ink-soft);
    text-decoration: none;
    white-space: nowrap;
    border-bottom: 3px solid transparent;
  }
  a:hover {
    color: var(--ink);
  }
  a[aria-current] {
    color: var(--ink);
    font-weight: 600;
    border-color: var(--brass);
  }
</style>
