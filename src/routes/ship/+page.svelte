<script lang="ts">
  import NoOrders from '$lib/ui/orders/NoOrders.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Ship · Earmark</title></svelte:head>
<NoOrders kind="sales" {data} />
