<!-- A number as a scheme makes it, each of its parts with what it is under it. -->
<script lang="ts">
  import { makeParts, type Occasion, type Scheme } from '../../core/numbers/scheme.ts';
  import { saySegment } from './say-scheme.ts';

  interface Props {
    scheme: Scheme;
    occasion: Occasion;
    /** Which number of its period it is, from 1. */
    count: number;
  }
  let { scheme, occasion, count }: Props = $props();
  const made = $derived(makeParts(scheme, occasion, count));
</script>

{#if made.ok}
  <p class="drawn">
    <span class="visually-hidden">The next number is {made.parts.join('')}.</span>
    {#each made.parts as part, index (index)}<span class="part" aria-hidden="true"
        ><b class="number">{part}</b><span class="under">{saySegment(scheme.segments[index]!)}</span
        ></span
      >{/each}
  </p>
{:else}<p class="stop">No number can be made: {made.why}.</p>{/if}

<style>
  .drawn {
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
  }
  .part {
    display: grid;
    justify-items: center;
    gap: 3px;
  }
  b {
    font-size: 22px;
    line-height: 1.2;
    white-space: pre;
    padding: 0 3px;
  }
  .under {
    font-size: 12.5px;
    color: var(--ink-soft);
    border-top: 2px solid var(--brass);
    padding: 2px 4px 0;
    width: 100%;
    text-align: center;
  }
</style>
