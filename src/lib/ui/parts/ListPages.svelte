<!-- Under a list that comes in pages by code: where one is in it, and the ways on. -->
<script lang="ts">
  import { pagedAddress } from './paged-address.ts';
  import { sayQuantity } from './say.ts';

  interface Props {
    page: {
      rows: readonly { code: string }[];
      /** How many there are on all pages. */
      total: number;
      more: boolean;
      /** What the list is narrowed to. */
      q: string;
      /** The code this page comes after; empty on the first. */
      after: string;
    };
    /** What is listed, in the plural: `products`. */
    of: string;
    /** The screen. */
    path: string;
  }
  let { page, of, path }: Props = $props();
  const last = $derived(page.rows.at(-1)?.code ?? '');
  const addressAfter = (after: string) => pagedAddress(path, { q: page.q, after });
</script>

{#if page.after !== '' || page.more}<p>
    {page.rows.length} of {sayQuantity(String(page.total))}
    {of}, by code{#if page.after !== ''}, after <span class="number">{page.after}</span>
      · <a href={addressAfter('')}>From the first</a>{/if}{#if page.more}&nbsp;· <a
        rel="next"
        href={addressAfter(last)}>Go on after {last}</a
      >{/if}
  </p>{/if}

<style>
  p {
    padding: 12px 10px;
  }
</style>
