<!-- What so many of a product take, through all levels: its bill as a tree, for any quantity. -->
<script lang="ts">
  import type { ComponentProps, Snippet } from 'svelte';
  import BillTree from '../BillTree.svelte';

  interface Props {
    title: string;
    unit: string;
    /** The page the quantity is asked on. */
    path: string;
    tree: {
      wanted: string;
      open: string | null;
      explosion: ComponentProps<typeof BillTree> | null;
      why: string;
    } | null;
    /** What more is asked by the address: the version that is shown. */
    keeps?: Record<string, string>;
    acts?: Snippet;
  }
  let { title, unit, path, tree, keeps = {}, acts }: Props = $props();
</script>

<section aria-label={title}>
  <div class="head">
    <h2>{title}</h2>
    {#if tree}<form method="GET" action={path} data-sveltekit-keepfocus data-sveltekit-noscroll>
        {#each Object.entries(keeps) as [name, value] (name)}<input
            type="hidden"
            {name}
            {value}
          />{/each}
        <label
          >to make <input
            class="field number"
            name="quantity"
            inputmode="decimal"
            value={tree.wanted}
            aria-label="How many are to be made"
          />
          {unit}</label
        >
        <button class="act quiet">Work out</button>
        {#if tree.open}<span class="small soft"
            >{tree.open} are still to be made on orders that wait</span
          >{/if}
      </form>{/if}
    {@render acts?.()}
  </div>
  {#if tree?.explosion}<BillTree {...tree.explosion} />
  {:else if tree}<p class="refused" role="alert">{tree.why}</p>
  {:else}<p class="soft">
      It has no bill yet. A build without one is a loose end: nobody can say what is missing.
    </p>{/if}
</section>

<style>
  section {
    display: grid;
    gap: 10px;
    border-top: 1px solid var(--line);
    padding-top: 14px;
  }
  .head {
    display: flex;
    gap: 12px 18px;
    align-items: center;
    flex-wrap: wrap;
  }
  .head > :global(.act:last-child) {
    margin-left: auto;
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
    flex-wrap: wrap;
  }
  .field {
    width: 90px;
    height: 36px;
  }
</style>
