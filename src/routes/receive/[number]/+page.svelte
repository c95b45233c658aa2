<script lang="ts">
  import LineSheet from '$lib/ui/bench/LineSheet.svelte';
  import OrdersOf from '$lib/ui/orders/OrdersOf.svelte';

  let { data } = $props();
</script>

<svelte:head><title>{data.order.number} · Receive · Earmark</title></svelte:head>
{#key data.order.number}
  <LineSheet
    mode="receive"
    order={data.order}
    places={data.places}
    available={data.available}
    onHand={data.onHand}
    draft={data.draft}
    today={data.today}
    mayBook={data.mayBook && data.order.state !== 'closed'}
    next={data.next}
    costs={data.costs}
  >
    {#snippet list()}<OrdersOf kind="purchase" {data} current={data.order.number} />{/snippet}
  </LineSheet>
{/key}
