<script lang="ts">
  import { page } from '$app/state';
  let { people }: { people: boolean } = $props();
  const items = $derived([
    ['/setup/products', 'Products'],
    ['/setup/partners', 'Partners'],
    ['/setup/places', 'Places'],
    ['/setup/plans', 'Marking plans'],
    ['/setup/numbering', 'Numbering'],
    ['/setup/routes', 'Routes'],
    ['/setup/company', 'Our company'],
    ['/setup/files', 'From files'],
    ...(people ? [['/setup/people', 'People']] : [])
  ] as [string, string][]);
</script>

<nav aria-label="Setup">
  {#each items as [href, name] (href)}<a
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
    position: sticky;
    top: 0;
    z-index: 5;
  }
  a {
    padding: 10px 14px;
    color: var(--ink-soft);
    text-decoration: none;
    border-bottom: 3px solid transparent;
  }
  a[aria-current] {
    color: var(--ink);
    font-weight: 600;
    border-bottom-color: var(--brass);
  }
</style>
