<!-- The same sheet stands in another tab of this person: what that means, and how to see it. -->
<script lang="ts">
  import type { Elsewhere } from './other-tabs.svelte.ts';

  let { elsewhere }: { elsewhere: Elsewhere } = $props();
  const SAYS = {
    open: 'This sheet is open in another tab of yours. What is typed last is kept.',
    changed: 'This sheet was changed in another tab of yours. What you type here goes over it.',
    booked: 'This sheet was booked in another tab of yours. What stands here is not booked.'
  };
</script>

{#if elsewhere}
  <p class="mind other" role="status">
    <span>{SAYS[elsewhere]}</span>
    {#if elsewhere !== 'open'}<button class="act quiet" onclick={() => location.reload()}
        >Show it as it is now</button
      >{/if}
  </p>
{/if}

<style>
  .other {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    margin: 8px 18px 0;
  }
</style>
