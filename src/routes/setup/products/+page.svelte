<script lang="ts">
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const MARKING = {
    none: 'by quantity only',
    lot: 'lot',
    serial: 'serial',
    'serial-in-lot': 'serial within lot'
  };
</script>

<svelte:head><title>Products · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Products</h1>
    <NarrowField
      q={data.q}
      placeholder="Only code or name …"
      label="Only products that hold this text"
      path="/setup/products"
    /><a class="act quiet" href="/api/v1/exports/products?format=xlsx" download>XLSX</a><a
      class="act quiet"
      href="/api/v1/exports/products?format=csv"
      download>CSV</a
    >{#if data.mayEdit}<a class="act" href="/setup/files?kind=products">From a file</a><a
        class="act main"
        href="/setup/products/new">New product</a
      >{/if}
  </div>
  <WideTable of="products">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Code</th><th scope="col">Name</th><th scope="col">Marked by</th><th
            scope="col">Bought or made</th
          ><th scope="col">GTIN</th><th scope="col" class="right">Marks</th><th
            scope="col"
            class="right">On hand</th
          ></tr
        ></thead
      >
      <tbody data-list>
        {#each data.rows as product (product.code)}
          <tr
            ><td
              ><a class="number" href="/setup/products/{encodeURIComponent(product.code)}"
                ><b>{product.code}</b></a
              ></td
            ><td>{product.name}</td><td
              >{MARKING[product.marking]}{#if product.plan}&nbsp;<a
                  class="number small"
                  href="/setup/plans?plan={encodeURIComponent(product.plan)}">{product.plan}</a
                >{/if}</td
            ><td>{product.made ? 'made' : 'bought'}</td><td class="number">{product.gtin ?? ''}</td
            ><td class="right number">{sayQuantity(String(product.marks))}</td><td class="right"
              ><span class="number">{sayQuantity(product.onHand)}</span>
              <span class="small soft">{product.unit}</span></td
            ></tr
          >
        {:else}<tr
            ><td colspan="7" class="soft"
              >{data.q
                ? 'No product holds that text.'
                : 'No product is set up yet. Begin with what you buy, then what you make of it.'}</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <ListPages page={data} of="products" path="/setup/products" />
</div>
