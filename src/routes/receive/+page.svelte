<script lang="ts">
  import NoOrders from '$lib/ui/orders/NoOrders.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Receive · Earmark</title></svelte:head>
<NoOrders kind="purchase" {data} />
