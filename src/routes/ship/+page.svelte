<script lang="ts">
  import OrderList from '$lib/ui/OrderList.svelte';
  import Working from '$lib/ui/Working.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Ship · Earmark</title></svelte:head>
<Working>
  {#snippet list()}<OrderList title="To ship" base="/ship" orders={data.orders} done={data.done} today={data.today} newHref={data.mayOrder ? '/orders/new?kind=sales' : undefined} empty="No sales order is open. Enter one, and it waits here until it is shipped." />{/snippet}
  {#snippet sheet()}<p class="nothing">No sales order is open. Enter one, and it waits here until it is shipped.</p>{/snippet}
</Working>

<style>
  .nothing { padding: 40px 28px; color: var(--ink-soft); }
</style>
