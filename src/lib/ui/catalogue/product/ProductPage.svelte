<!-- A product, read first: what it is, how it is marked, what it takes, and what depends on it. -->
<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import WhatItTakes from '../bill/WhatItTakes.svelte';
  import SetPicture from '../SetPicture.svelte';
  import DependsOnIt from './DependsOnIt.svelte';
  import HowMarked from './HowMarked.svelte';
  import { keeperOf } from './keeper.ts';
  import OtherUnits from './OtherUnits.svelte';
  import WeightAndSize from './WeightAndSize.svelte';
  import WhatItIs from './WhatItIs.svelte';

  interface Props {
    product: ProductRecord;
    tag: string;
    plans: ComponentProps<typeof HowMarked>['plans'];
    schemes: ComponentProps<typeof HowMarked>['schemes'];
    site: string;
    uses: ComponentProps<typeof DependsOnIt>['uses'];
    tree: ComponentProps<typeof WhatItTakes>['tree'];
    today: string;
    mayEdit: boolean;
    kept: boolean;
  }
  let { product, tag, plans, schemes, site, uses, tree, today, mayEdit, kept }: Props = $props();
  const path = $derived(`/setup/products/${encodeURIComponent(product.code)}`);
  const keep = keeperOf(
    () => product,
    () => tag
  );
</script>

<div class="page">
  <div class="head">
    <h1><span class="number">{product.code}</span> {product.name}</h1>
    {#if kept}<span class="good" role="status">✓ Kept.</span>{/if}
    <a class="act quiet" href="/setup/products">All products</a>
  </div>
  <div class="two">
    <div>
      <WhatItIs {product} {keep} {mayEdit} />
      <HowMarked {product} {plans} {schemes} {site} {today} {keep} {mayEdit} />
      <OtherUnits {product} {keep} {mayEdit} />
      <WeightAndSize {product} {keep} {mayEdit} />
    </div>
    <aside>
      <DependsOnIt {product} {uses} {today} />
      {#if mayEdit}<SetPicture product={product.code} />{/if}
    </aside>
  </div>
  {#if product.made}
    <WhatItTakes title="What it takes" unit={product.unit} {path} {tree}>
      {#snippet acts()}
        <a class="act" href="{path}/bill">{tree ? 'The bill' : 'Say what one takes'}</a>
      {/snippet}
    </WhatItTakes>
  {/if}
</div>

<style>
  .head {
    display: flex;
    gap: 12px 18px;
    align-items: center;
    flex-wrap: wrap;
  }
  .head .act:last-child {
    margin-left: auto;
  }
  .two {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(260px, 340px);
    gap: 8px 40px;
    align-items: start;
  }
  aside {
    display: grid;
    gap: 26px;
    padding-top: 20px;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
