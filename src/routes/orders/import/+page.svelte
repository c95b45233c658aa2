<script lang="ts">
  import { capital } from '$lib/core/capital.ts';
  import { ORDER_SCREEN } from '$lib/ui/orders/order-screen.ts';
  import ImportTable from '$lib/ui/parts/ImportTable.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Orders from a file · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>{capital(data.kind)} orders from a file</h1>
    <a class="act" href={ORDER_SCREEN[data.kind]}>All {data.kind} orders</a>
  </div>
  <p class="soft">
    One row for each line; rows with the same order number make one order.{#if data.kind === 'purchase'}
      A row may name a number the supplier announced; repeat the product for the next number of the
      same line.{/if}
  </p>
  <ImportTable kind="{data.kind}-orders" what={['order', 'orders']} columns={data.columns} />
</div>
