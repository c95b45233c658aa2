<!-- The stops of a pick list place by place, in walking order. -->
<script lang="ts">
  import { groupBy } from '../../core/group-by.ts';
  import { sayQuantity } from '../parts/say.ts';
  import type { PickRecord } from '../../core/shipping/pick-record.ts';
  import { sayWhat } from './pick.ts';

  interface Props {
    stops: readonly PickRecord[];
    /** Stops of which something waits on this device for the line. */
    left: ReadonlySet<number>;
    mayPick: boolean;
    onback: (pick: number) => void;
  }
  let { stops, left, mayPick, onback }: Props = $props();
  function signOf({ picked, quantity }: PickRecord): string {
    if (picked === quantity) return '✓';
    return picked === '0' ? '○' : '◐';
  }
  const places = $derived([...groupBy(stops, (pick) => pick.place ?? '')]);
</script>

{#each places as [place, here] (place)}
  <section class="stops">
    <h2 class:number={place !== ''}>
      {place || 'Wherever it lies'} <span class="soft">{here[0]!.placeName ?? ''}</span>
    </h2>
    <ul>
      {#each here as stop (stop.id)}
        <li class:done={stop.picked === stop.quantity}>
          <span class="sign" aria-hidden="true">{signOf(stop)}</span>
          <span class="what"
            ><b class:number={stop.number !== null || stop.kind === 'bulk'}>{sayWhat(stop)}</b><span
              class="small soft"
              >{stop.product}{stop.lot ? ` · lot ${stop.lot}` : ''}{stop.who
                ? ` · ${stop.who}`
                : ''}{stop.packed !== '0' ? ` · ${sayQuantity(stop.packed)} packed` : ''}{left.has(
                stop.id
              )
                ? ' · kept on this device'
                : ''}</span
            ></span
          >
          <b class="number"
            >{stop.picked === '0' || stop.picked === stop.quantity
              ? sayQuantity(stop.quantity)
              : `${sayQuantity(stop.picked)} / ${sayQuantity(stop.quantity)}`}
            <span class="small soft">{stop.unit}</span></b
          >
          {#if mayPick && stop.picked !== '0' && stop.packed === '0'}<button
              class="act quiet"
              onclick={() => onback(stop.id)}
              aria-label="Put {sayWhat(stop)} back">Put back</button
            >{/if}
        </li>
      {/each}
    </ul>
  </section>
{/each}

<style>
  .what {
    display: grid;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  .stops h2 {
    font-size: 17px;
    color: var(--ink);
    border-top: 2px solid var(--ink);
    padding-top: 6px;
  }
  .stops h2 .soft {
    font: 400 14px var(--sans);
  }
  .stops li {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) auto auto;
    gap: 10px;
    align-items: center;
    padding: 8px 4px;
    border-bottom: 1px solid var(--line);
    min-height: 52px;
  }
  .sign {
    font-size: 22px;
    color: var(--line-strong);
  }
  .done .sign {
    color: var(--sea);
  }
  .done .what b {
    color: var(--ink-soft);
  }
</style>
