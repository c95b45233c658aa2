<script lang="ts">
  import NewProduct from '$lib/ui/catalogue/product/NewProduct.svelte';
  import ProductPage from '$lib/ui/catalogue/product/ProductPage.svelte';

  let { data } = $props();
  const { page, today, mayEdit } = $derived(data);
</script>

<svelte:head><title>{page?.product.code ?? 'New product'} · Setup · Earmark</title></svelte:head>
{#if page === null}<NewProduct />
{:else}
  <!-- Another product is another page: nothing that is typed of one stands on the next. -->
  {#key page.product.code}<ProductPage {...page} {today} {mayEdit} />{/key}
{/if}
