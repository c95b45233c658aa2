<script lang="ts">
  import BuildSheet from '$lib/ui/bench/BuildSheet.svelte';
  import OrdersOf from '$lib/ui/orders/OrdersOf.svelte';

  let { data } = $props();
</script>

<svelte:head><title>{data.order.number} · Build · Earmark</title></svelte:head>
{#key data.order.number}
  <BuildSheet
    order={data.order}
    line={data.order.lines[0]!}
    components={data.components}
    coProducts={data.coProducts}
    batchSize={data.batch}
    scrapped={data.scrapped}
    places={data.places}
    available={data.available}
    usable={data.usable}
    onHand={data.onHand}
    draft={data.draft}
    today={data.today}
    mayBook={data.mayBook && data.order.state !== 'closed'}
    next={data.next}
  >
    {#snippet list()}<OrdersOf kind="work" {data} current={data.order.number} />{/snippet}
  </BuildSheet>
{/key}
