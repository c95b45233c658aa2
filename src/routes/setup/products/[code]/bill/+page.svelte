<script lang="ts">
  import BillPage from '$lib/ui/catalogue/bill/BillPage.svelte';

  let { data } = $props();
  const { product, part, present, asked, versions, usedIn, tree, columns } = $derived(data);
</script>

<svelte:head><title>Bill of {product.code} · Setup · Earmark</title></svelte:head>
<!-- Another product is another page: nothing that is typed of one stands on the next. -->
{#key product.code}<BillPage
    {...{ product, part, present, asked, versions, usedIn, tree, columns }}
  />{/key}
