<!-- A product's bill: its versions, the one that is read or changed, what it takes, what it goes into. -->
<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import { goto } from '$app/navigation';
  import { sayInstant } from '../../parts/say.ts';
  import ImportTable from '../../parts/ImportTable.svelte';
  import BillPart from './BillPart.svelte';
  import ToHaveReady from './ToHaveReady.svelte';
  import UsedIn from './UsedIn.svelte';
  import VersionChips from './VersionChips.svelte';
  import WhatItTakes from './WhatItTakes.svelte';

  interface Props {
    product: { code: string; name: string; unit: string };
    part: Omit<ComponentProps<typeof BillPart>, 'product' | 'last' | 'onkept'>;
    versions: readonly (ComponentProps<typeof VersionChips>['versions'][number] & {
      who: string | null;
      madeAt: string;
    })[];
    present: number | null;
    /** The version that was asked for; null for the one in force. */
    asked: number | null;
    usedIn: { rows: ComponentProps<typeof UsedIn>['uses']; more: boolean };
    tree: ComponentProps<typeof WhatItTakes>['tree'];
    columns: ComponentProps<typeof ImportTable>['columns'];
  }
  let { product, part, versions, present, asked, usedIn, tree, columns }: Props = $props();
  let importing = $state(false);
  let kept = $state('');
  const code = $derived(encodeURIComponent(product.code));
  const path = $derived(`/setup/products/${code}/bill`);
  const shown = $derived(versions.find((one) => one.version === part.bill?.version));
  const isPresent = $derived(shown?.version === present);

  /** Shows what was kept, where that is not what is shown. */
  async function show(version: number, isNew: boolean): Promise<void> {
    if (version !== part.bill?.version) {
      const query = version === present ? '' : `?version=${version}`;
      await goto(path + query, { keepFocus: true, noScroll: true });
    }
    kept = isNew
      ? `✓ Kept as version ${version}.`
      : 'Nothing was changed: it is as the version in force.';
  }
</script>

<div class="page">
  <div class="page-head">
    <h1>
      What one <span class="number">{product.code}</span> takes
      <span class="name">{product.name}</span>
    </h1>
    <span class="page-acts"
      ><a class="act" href="/api/v1/exports/bills?format=xlsx&product={code}">As XLSX</a><a
        class="act"
        href="/api/v1/exports/bills?format=csv&product={code}">CSV</a
      >{#if part.mayEdit}<button class="act" onclick={() => (importing = !importing)}
          >From a file</button
        >{/if}<a class="act quiet" href="/setup/products/{code}">Product</a></span
    >
  </div>
  {#if importing}<ImportTable kind="bills" what={['bill', 'bills']} {columns} />{/if}
  {#if versions.length > 0}<VersionChips
      {versions}
      {present}
      shown={part.bill?.version ?? null}
    />{/if}
  {#if shown}<p class="small soft">
      <span>Kept {shown.who ? `by ${shown.who} ` : ''}on {sayInstant(shown.madeAt)}.</span>
      {#if !isPresent}<b
          >It is not in force{shown.orders > 0 ? ', but orders that began with it keep it' : ''}.</b
        >
        <span>What is changed of it becomes the next version.</span>{/if}
    </p>{/if}
  {#if kept}<p class="good" role="status">{kept}</p>{/if}
  <!-- Another version that is asked for is another bill: nothing typed of one stands on the next.
       One that somebody else kept meanwhile is not. -->
  {#key asked}<BillPart {...part} {product} last={versions[0]?.version ?? 0} onkept={show} />{/key}
  {#if present !== null}
    <WhatItTakes
      title="Through all levels{isPresent ? '' : `, by version ${present}`}"
      unit={product.unit}
      {path}
      {tree}
      keeps={isPresent ? {} : { version: String(part.bill?.version) }}
    />
  {/if}
  <div class="two">
    {#if tree?.explosion}<ToHaveReady needs={tree.explosion.needs} />{/if}
    <UsedIn code={product.code} uses={usedIn.rows} more={usedIn.more} />
  </div>
</div>

<style>
  .name {
    font-weight: 400;
  }
  .two {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(320px, 1fr));
    gap: 20px 40px;
    border-top: 1px solid var(--line);
    padding-top: 14px;
  }
</style>
