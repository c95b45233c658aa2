<script lang="ts">
  import LineSheet from '$lib/ui/bench/LineSheet.svelte';
  import OrdersOf from '$lib/ui/orders/OrdersOf.svelte';

  let { data } = $props();
</script>

<svelte:head><title>{data.order.number} · Ship · Earmark</title></svelte:head>
{#key data.order.number}
  <LineSheet
    mode="ship"
    order={data.order}
    places={data.places}
    available={data.available}
    onHand={data.onHand}
    usable={data.usable}
    wishes={data.wishes}
    draft={data.draft}
    today={data.today}
    mayBook={data.mayBook && data.order.state !== 'closed'}
    next={data.next}
  >
    {#snippet list()}<OrdersOf kind="sales" {data} current={data.order.number} />{/snippet}
  </LineSheet>
{/key}
