<!-- The screens of one part of Earmark, one beside the other. -->
<script lang="ts">
  import { page } from '$app/state';
  let { label, items }: { label: string; items: readonly (readonly [string, string])[] } = $props();
  // Of screens one below the other the longer address is meant.
  const here = $derived(
    items
      .map(([href]) => href)
      .filter((href) => page.url.pathname.startsWith(href))
      .sort((a, b) => b.length - a.length)[0]
  );
</script>

<nav aria-label={label}>
  {#each items as [href, name] (href)}<a {href} aria-current={href === here ? 'page' : undefined}
      >{name}</a
    >{/each}
</nav>

<style>
  nav {
    display: flex;
    gap: 4px;
    border-bottom: 1px solid var(--line);
    padding: 6px 20px 0;
    background: var(--paper);
    position: sticky;
    top: 0;
    z-index: 5;
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
    border-bottom-color: var(--brass);
  }
</style>
