<!-- Cartons and pallets that are carried with all that is in them. -->
<script lang="ts">
  import PlaceChoice from '../parts/PlaceChoice.svelte';
  import type { MoveUnit } from '../../core/ledger/request.ts';

  interface Props {
    units: readonly MoveUnit[];
    places: readonly { code: string; name: string; siteName: string }[];
    onchange: (units: MoveUnit[]) => void;
  }
  let { units, places, onchange }: Props = $props();
</script>

{#each units as unit, at (unit.sscc)}<p class="unit">
    <b class="number">{unit.sscc}</b> with all that is in it goes to
    <PlaceChoice
      {places}
      value={unit.to}
      none="choose a place"
      label="Where {unit.sscc} goes"
      onchange={(to) => onchange(units.with(at, { ...unit, to }))}
    /><button class="act quiet" onclick={() => onchange(units.toSpliced(at, 1))}>Leave it</button>
  </p>{/each}

<style>
  .unit {
    display: flex;
    gap: 10px;
    align-items: center;
    flex-wrap: wrap;
    padding: 2px 22px 8px;
  }
</style>
