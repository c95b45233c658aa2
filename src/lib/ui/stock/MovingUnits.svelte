<!-- Cartons and pallets that are carried with all that is in them. -->
<script lang="ts">
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
    <select
      class="field"
      value={unit.to}
      aria-label="Where {unit.sscc} goes"
      onchange={(event) => onchange(units.with(at, { ...unit, to: event.currentTarget.value }))}
      ><option value="">choose a place</option>{#each places as place (place.code)}<option
          value={place.code}>{place.siteName}, {place.name}</option
        >{/each}</select
    ><button class="act quiet" onclick={() => onchange(units.toSpliced(at, 1))}>Leave it</button>
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
