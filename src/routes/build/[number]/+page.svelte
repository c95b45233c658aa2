<script lang="ts">
  import BuildSheet from '$lib/ui/bench/BuildSheet.svelte';
  import OrderList from '$lib/ui/OrderList.svelte';

  let { data } = $props();
</script>

<svelte:head><title>{data.order.number} · Build · Earmark</title></svelte:head>
{#key data.order.number}
  <BuildSheet order={data.order} line={data.order.lines[0]!} components={data.components} places={data.places} available={data.available} draft={data.draft} today={data.today} mayBook={data.mayBook && data.order.state !== 'closed'} next={data.next}>
    {#snippet list()}<OrderList title="To build" base="/build" orders={data.orders} done={data.done} current={data.order.number} today={data.today} newHref={data.mayOrder ? '/orders/new?kind=work' : undefined} empty="No work order is open. Enter one, and it waits here until it is built." />{/snippet}
  </BuildSheet>
{/key}
