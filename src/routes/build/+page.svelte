<script lang="ts">
  import OrderList from '$lib/ui/OrderList.svelte';
  import Working from '$lib/ui/Working.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Build · Earmark</title></svelte:head>
<Working>
  {#snippet list()}<OrderList title="To build" base="/build" orders={data.orders} done={data.done} today={data.today} newHref={data.mayOrder ? '/orders/new?kind=work' : undefined} empty="No work order is open. Enter one, and it waits here until it is built." />{/snippet}
  {#snippet sheet()}<p class="nothing">No work order is open. Enter one, and it waits here until it is built.</p>{/snippet}
</Working>

<style>
  .nothing { padding: 40px 28px; color: var(--ink-soft); }
</style>
