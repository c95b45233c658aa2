<!-- The tag that stands alone on paper where nobody is at work yet: signing in, coming back. -->
<script lang="ts">
  import type { Snippet } from 'svelte';

  let { children }: { children: Snippet } = $props();
</script>

<main>
  <div class="tag">
    <svg aria-hidden="true" viewBox="0 0 420 400" preserveAspectRatio="none"
      ><path
        vector-effect="non-scaling-stroke"
        d="M36 1 L419 1 L419 399 L36 399 L1 364 L1 36 Z"
        fill="#fff"
        stroke="#1d2930"
        stroke-width="1.6"
      /></svg
    >
    <span class="hole" aria-hidden="true"></span>
    <div class="on">{@render children()}</div>
  </div>
</main>

<style>
  main {
    min-height: 100vh;
    display: grid;
    place-items: center;
    background: var(--paper-deep);
    padding: 20px;
  }
  .tag {
    position: relative;
    width: min(420px, 100%);
    padding: 40px 44px 40px 72px;
  }
  svg {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    filter: drop-shadow(0 10px 24px rgb(29 41 48 / 14%));
  }
  .hole {
    position: absolute;
    left: 26px;
    top: 50%;
    width: 20px;
    height: 20px;
    margin-top: -10px;
    border: 1.6px solid var(--ink);
    border-radius: 50%;
    background: var(--paper-deep);
  }
  .on {
    position: relative;
  }
  .on,
  .on > :global(form) {
    display: grid;
    gap: 16px;
  }
  .on :global(h1) {
    font-size: 30px;
  }
  .on :global(h1 + p) {
    color: var(--ink-soft);
    margin-top: -8px;
  }
  .on :global(.refused) {
    margin: 0;
    padding: 10px 12px;
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    font-size: 14px;
  }
  .on :global(.act) {
    justify-content: center;
    min-height: 46px;
  }
</style>
