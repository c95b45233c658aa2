<script lang="ts">
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import OutsidePage from '$lib/ui/service/OutsidePage.svelte';
  let { data } = $props();
  const unit = $derived(data.unit);
  const until = $derived(/^until (.+)$/.exec(unit.warranty ?? '')?.[1]);
</script>

<OutsidePage title={unit.product} from={unit.from}>
  <p>Serial <b class="number">{unit.serial}</b>{unit.made ? `, made ${sayDay(unit.made)}` : ''}.</p>
  {#if unit.recalled}<p class="refused">
      <b>Do not use it.</b> It stands in a recall that is open. Get in touch with {unit.from}.
    </p>{:else if unit.recalled === false}<p class="good">It stands in no open recall.</p>{/if}
  {#if until}<p>Under warranty until {sayDay(until)}.</p>{:else if unit.warranty === 'over'}<p>
      Its warranty is over.
    </p>{:else if unit.warranty === 'none'}<p>No warranty is known here.</p>{/if}
  {#if unit.howToSend}<h2>How to send it in</h2>
    <p class="how">{unit.howToSend}</p>{/if}
</OutsidePage>

<style>
  .how {
    white-space: pre-line;
  }
</style>
