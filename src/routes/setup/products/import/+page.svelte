<script lang="ts">
  import ImportTable from '$lib/ui/parts/ImportTable.svelte';
  let { data } = $props();
</script>

<svelte:head><title>Products from a file · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Products from a file</h1>
    <a class="act" href="/setup/products">All products</a>
  </div>
  <ImportTable kind="products" what={['product', 'products']} columns={data.columns} />
</div>
