<!-- The tour, offered beside a heading where there is a demo to go through and none is under way. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { tour } from './tour.svelte.ts';

  interface Props {
    /** The lot it follows; null where there is no demo. */
    lot: number | null;
    login: string;
    children: Snippet;
  }
  let { lot, login, children }: Props = $props();
</script>

<span
  >{@render children()}{#if lot !== null && tour.progress === null}<button
      class="act quiet small"
      onclick={() => tour.start(localStorage, login, lot)}>A tour in ten minutes</button
    >{/if}</span
>

<style>
  span {
    display: inline-flex;
    align-items: baseline;
    flex-wrap: wrap;
    gap: 4px;
  }
</style>
