<script lang="ts">
  import OrderList from '$lib/ui/OrderList.svelte';
  import Working from '$lib/ui/Working.svelte';

  let { data } = $props();
</script>

<svelte:head><title>Receive · Earmark</title></svelte:head>
<Working>
  {#snippet list()}<OrderList title="Expected" base="/receive" orders={data.orders} done={data.done} today={data.today} newHref={data.mayOrder ? '/orders/new?kind=purchase' : undefined} empty="No purchase order is open. Enter one, and it waits here until its goods come in." />{/snippet}
  {#snippet sheet()}<p class="nothing">No purchase order is open. Enter one, and it waits here until its goods come in.</p>{/snippet}
</Working>

<style>
  .nothing { padding: 40px 28px; color: var(--ink-soft); }
</style>
