<script lang="ts">
  import { untrack } from 'svelte';
  import LineSheet from '$lib/ui/bench/LineSheet.svelte';

  let { data } = $props();
  // After a booking the page is loaded anew and nothing may wait any more: the sheet that says what
  // was booked stays all the same.
  let shownFor = untrack(() => data.product);
  let sheet = $state.raw(untrack(() => data.sheet));
  $effect.pre(() => {
    if (data.product === shownFor) return;
    shownFor = data.product;
    sheet = data.sheet;
  });
</script>

<svelte:head><title>Give numbers · Earmark</title></svelte:head>
{#if sheet}
  {#key sheet.order.number}
    <LineSheet
      mode="identify"
      order={sheet.order}
      places={sheet.places}
      available={sheet.available}
      onHand={sheet.onHand}
      draft={sheet.draft}
      today={data.today}
      mayBook={data.mayBook}
      next="/"
    />
  {/key}
{:else}
  <div class="none">
    <h1>Give numbers</h1>
    <p class="soft">
      Nothing of {data.product || 'that product'} waits for a number. What is kept without one although
      its plan asks for it stands on <a href="/">Today</a>.
    </p>
  </div>
{/if}

<style>
  .none {
    padding: 20px 24px;
    display: grid;
    gap: 8px;
  }
</style>
