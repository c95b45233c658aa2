<!-- A product, read first: what it is, how it is marked, what it takes, and what depends on it. -->
<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import type { ProductRecord } from '../../../core/catalogue/product-record.ts';
  import BillTree from '../BillTree.svelte';
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
    tree: {
      wanted: string;
      open: string | null;
      explosion: ComponentProps<typeof BillTree> | null;
      why: string;
    } | null;
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
    <section aria-label="What it takes">
      <div class="head">
        <h2>What it takes</h2>
        {#if tree}<form method="GET" action={path} data-sveltekit-keepfocus data-sveltekit-noscroll>
            <label
              >to make <input
                class="field number"
                name="quantity"
                inputmode="decimal"
                value={tree.wanted}
                aria-label="How many are to be made"
              />
              {product.unit}</label
            >
            <button class="act quiet">Work out</button>
            {#if tree.open}<span class="small soft"
                >{tree.open} are still to be made on orders that wait</span
              >{/if}
          </form>{/if}
        <a class="act" href="{path}/bill">{tree ? 'The bill' : 'Say what one takes'}</a>
      </div>
      {#if tree?.explosion}<BillTree {...tree.explosion} />
      {:else if tree}<p class="refused" role="alert">{tree.why}</p>
      {:else}<p class="soft">
          It has no bill yet. A build without one is a loose end: nobody can say what is missing.
        </p>{/if}
    </section>
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
  section {
    display: grid;
    gap: 10px;
    border-top: 1px solid var(--line);
    padding-top: 14px;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  form,
  label {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .field {
    width: 90px;
    height: 36px;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
