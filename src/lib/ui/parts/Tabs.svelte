<!-- Two or more views of one thing, each with an address of its own. -->
<script lang="ts">
  import { page } from '$app/state';
  let { label, items }: { label: string; items: readonly (readonly [string, string])[] } = $props();
  const pathOf = (href: string) => href.split('?')[0];
</script>

<nav aria-label={label}>
  {#each items as [href, name] (href)}<a
      {href}
      aria-current={page.url.pathname === pathOf(href) ? 'page' : undefined}>{name}</a
    >{/each}
</nav>

<style>
  nav {
    display: flex;
    gap: 16px;
  }
  a {
    color: var(--ink-soft);
    text-decoration: none;
    padding: 6px 0;
  }
  a[aria-current] {
    color: var(--ink);
    font-weight: 600;
    border-bottom: 2px solid var(--brass);
  }
</style>
