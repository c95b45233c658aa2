<!--
  A table that may be wider than the screen: it scrolls by itself, and what stands around it stays.
  Where it does, it is reached by Tab, so that the arrow keys move it.
-->
<script lang="ts">
  import type { Snippet } from 'svelte';

  interface Props {
    /** What the table is of, for who cannot see it. */
    of: string;
    children: Snippet;
  }
  let { of, children }: Props = $props();
  let frame: HTMLElement;
  let isWider = $state(false);

  $effect(() => {
    const look = () => (isWider = frame.scrollWidth > frame.clientWidth);
    const watch = new ResizeObserver(look);
    watch.observe(frame);
    for (const child of frame.children) watch.observe(child);
    return () => watch.disconnect();
  });
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex (a region that scrolls is moved by the keyboard) -->
<div
  bind:this={frame}
  class:wider={isWider}
  role="group"
  aria-label={of}
  tabindex={isWider ? 0 : undefined}
>
  {@render children()}
</div>

<style>
  div {
    min-width: 0;
  }
  /* Only then: headings that stay in sight would stay in this and not in the screen. */
  .wider {
    overflow-x: auto;
  }
</style>
