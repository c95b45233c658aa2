<script lang="ts">
  import LineSheet from '$lib/ui/bench/LineSheet.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Give numbers · Earmark</title></svelte:head>
{#key data.order.number}
  <LineSheet mode="identify" order={data.order} places={data.places} available={data.available} draft={data.draft} today={data.today} mayBook={data.mayBook} next="/" />
{/key}
