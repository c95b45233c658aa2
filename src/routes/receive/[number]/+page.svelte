<script lang="ts">
  import LineSheet from '$lib/ui/bench/LineSheet.svelte';
  import OrderList from '$lib/ui/OrderList.svelte';

  let { data } = $props();
</script>

<svelte:head><title>{data.order.number} · Receive · Earmark</title></svelte:head>
{#key data.order.number}
  <LineSheet mode="receive" order={data.order} places={data.places} available={data.available} draft={data.draft} today={data.today} mayBook={data.mayBook && data.order.state !== 'closed'} next={data.next}>
    {#snippet list()}<OrderList title="Expected" base="/receive" orders={data.orders} done={data.done} current={data.order.number} today={data.today} newHref={data.mayOrder ? '/orders/new?kind=purchase' : undefined} empty="No purchase order is open. Enter one, and it waits here until its goods come in." />{/snippet}
  </LineSheet>
{/key}
