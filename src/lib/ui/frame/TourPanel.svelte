<!-- The tour of ten minutes: where one is on it, what to look at here, the way on, and the way out. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import { tour } from './tour.svelte.ts';
  import { tourSteps } from './tour-steps.ts';

  let { login }: { login: string } = $props();
  onMount(() => tour.goOn(localStorage, login));

  const steps = $derived(tour.progress ? tourSteps(tour.progress.lot) : []);
  const at = $derived(tour.progress?.at ?? 0);
  const stop = $derived(steps[at]);
  const isLast = $derived(at === steps.length - 1);
  /** Whoever looks around elsewhere is led back, and not on past what they have not seen. */
  const isHere = $derived(stop !== undefined && page.url.pathname === stop.path.split('?')[0]);

  function move(by: number): void {
    tour.move(localStorage, by, steps.length - 1);
    void goto(steps[at]!.path);
  }
</script>

{#if stop}
  <section class="tour" aria-label="Tour">
    <p class="where">
      <span>{at + 1} of {steps.length}</span>
      <button class="act quiet" onclick={() => tour.leave(localStorage)}>Leave the tour</button>
    </p>
    <div aria-live="polite">
      <h2>{stop.title}</h2>
      <p>{stop.says}</p>
      <p class="soft">{stop.tries}</p>
    </div>
    <p class="ways">
      <button class="act" disabled={at === 0} onclick={() => move(-1)}>Back</button>
      {#if !isHere}<a class="act" href={stop.path}>To this stop</a>{/if}
      {#if isLast}<button class="act main" onclick={() => tour.leave(localStorage)}>End</button
        >{:else}<button class="act main" onclick={() => move(1)}
          >Next: {steps[at + 1]!.title}</button
        >{/if}
    </p>
  </section>
{/if}

<style>
  .tour {
    position: fixed;
    left: 12px;
    bottom: 12px;
    width: 348px;
    z-index: 40;
    padding: 8px 14px 14px;
    background: var(--panel);
    border: 2px solid var(--ink);
    border-top: 6px solid var(--brass);
    box-shadow: 0 6px 24px rgb(28 40 48 / 28%);
  }
  .where {
    display: flex;
    justify-content: space-between;
    align-items: center;
    font-size: 13.5px;
    color: var(--ink-soft);
  }
  h2 {
    font-size: 18px;
    margin: 0 0 4px;
    color: var(--ink);
  }
  p {
    font-size: 14.5px;
    line-height: 1.4;
  }
  div p + p {
    margin-top: 6px;
  }
  .ways {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    margin-top: 10px;
  }
  @media (max-width: 700px) {
    .tour {
      left: 0;
      right: 0;
      bottom: 52px;
      width: auto;
      max-height: 46vh;
      overflow: auto;
    }
  }
  @media print {
    .tour {
      display: none;
    }
  }
</style>
