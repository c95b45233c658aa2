<script lang="ts">
  let { data } = $props();
</script>

<svelte:head><title>{data.title} · Earmark</title></svelte:head>
<div class="help">
  <nav aria-label="Tasks">
    <ul data-list>
      {#each data.tasks as { task, anchor } (anchor)}<li><a href="#{anchor}">{task}</a></li>{/each}
    </ul>
  </nav>
  <article>
    <h1>{data.title}</h1>
    <!-- Made from docs/using.md when it was built, and of nothing that anybody types. -->
    <!-- eslint-disable-next-line svelte/no-at-html-tags -->
    {@html data.html}
  </article>
</div>

<style>
  .help {
    display: grid;
    grid-template-columns: 250px minmax(0, 1fr);
    gap: 32px;
    padding: 20px 24px 60px;
    align-items: start;
  }
  nav {
    position: sticky;
    top: 12px;
    max-height: calc(100vh - 90px);
    overflow: auto;
  }
  nav a {
    display: block;
    padding: 7px 10px;
    color: var(--ink);
    text-decoration: none;
    font-size: 14.5px;
  }
  nav a:hover {
    background: var(--paper);
  }
  article {
    max-width: 70ch;
    line-height: 1.6;
  }
  article :global(h2),
  article :global(h3) {
    margin: 30px 0 8px;
    padding-top: 6px;
    font-size: 19px;
    color: var(--ink);
  }
  article :global(h3) {
    font-size: 16px;
  }
  article :global(p),
  article :global(ul) {
    margin: 0 0 12px;
  }
  article :global(ul) {
    padding-left: 20px;
    list-style: disc;
  }
  article :global(code) {
    font-family: var(--mono, monospace);
    background: var(--paper);
    padding: 0 4px;
    overflow-wrap: anywhere;
  }
  article :global(:target) {
    border-left: 3px solid var(--brass);
    padding-left: 10px;
  }
  @media (max-width: 800px) {
    .help {
      grid-template-columns: minmax(0, 1fr);
    }
    nav {
      position: static;
      max-height: 220px;
    }
  }
</style>
