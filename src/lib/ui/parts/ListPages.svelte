<!-- Under a list that comes in pages by code: where one is in it, and the ways on. -->
<script lang="ts">
  import { sayQuantity } from './say.ts';

  interface Props {
    shown: number;
    /** How many there are on all pages, said as `2,000 products`. */
    total: number;
    of: string;
    /** The code this page comes after; empty on the first. */
    after: string;
    /** The last code of this page, where more come. */
    next: string | null;
    /** Where the page after a code is. */
    addressOf: (after: string) => string;
  }
  let { shown, total, of, after, next, addressOf }: Props = $props();
</script>

{#if after !== '' || next !== null}<p>
    {shown} of {sayQuantity(String(total))}
    {of}, by code{#if after !== ''}, after <span class="number">{after}</span>
      · <a href={addressOf('')}>From the first</a>{/if}{#if next !== null}&nbsp;· <a
        href={addressOf(next)}>Go on after {next}</a
      >{/if}
  </p>{/if}

<style>
  p {
    padding: 12px 10px;
  }
</style>
