<!-- A page for whoever holds a unit: no sign-in, no script. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  let { title, from, children }: { title: string; from: string; children: Snippet } = $props();
</script>

<svelte:head><title>{title} · {from}</title><meta name="robots" content="noindex" /></svelte:head>
<main>
  <p class="from">{from}</p>
  <h1>{title}</h1>
  {@render children()}
</main>

<style>
  main {
    max-width: 620px;
    margin: 8vh auto;
    padding: 28px 32px 36px;
    background: #fff;
    border: 1px solid var(--line);
    border-top: 4px solid var(--brass);
    display: grid;
    gap: 14px;
  }
  .from {
    color: var(--ink-soft);
  }
  @media (max-width: 700px) {
    main {
      margin: 0;
      border-width: 4px 0 0;
    }
  }
</style>
