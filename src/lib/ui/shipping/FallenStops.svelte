<!-- What stood on the pick list and is no stop any more, with why and what to do. -->
<script lang="ts">
  import { SAYS_FELL } from '../../core/shipping/fell-away.ts';
  import { count } from '../parts/say.ts';
  import type { PickRecord } from '../../core/shipping/pick-record.ts';
  import { sayWhat } from './pick.ts';

  interface Props {
    order: string;
    fallen: readonly PickRecord[];
    mayPick: boolean;
    onback: (pick: number) => void;
  }
  let { order, fallen, mayPick, onback }: Props = $props();
</script>

{#if fallen.length > 0}
  <section class="mind fallen" aria-label="No stops any more">
    {#each fallen as pick (pick.id)}
      <p>
        <b class="number">{sayWhat(pick)}</b>
        <span class="soft">{pick.product}</span>
        {SAYS_FELL[pick.fell!]}{pick.picked === '0' ? '' : ': put it back'}.
        {#if mayPick && pick.picked !== '0' && pick.packed === '0'}<button
            class="act quiet"
            onclick={() => onback(pick.id)}
            aria-label="Put {sayWhat(pick)} back">Put back</button
          >{/if}
      </p>
    {/each}
    <a href="/ship/{encodeURIComponent(order)}/choose"
      >Choose others for {count(fallen.length, 'stop')}</a
    >
  </section>
{/if}

<style>
  .fallen {
    display: grid;
    gap: 6px;
    font-size: 16px;
  }
</style>
