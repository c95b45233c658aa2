<script lang="ts">
  import NoOrders from '$lib/ui/orders/NoOrders.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Build · Earmark</title></svelte:head>
<NoOrders kind="work" {data} />
