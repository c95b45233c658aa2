<!-- A place: one of a few from a list, one of many by a few letters of its code or name. -->
<script lang="ts">
  import { placeMeant, sayPlace, type PlaceToChoose } from './place-of.ts';

  interface Props {
    places: readonly PlaceToChoose[];
    /** Its code; empty where none is chosen. */
    value: string;
    /** What stands there where none is chosen, if that may be. */
    none?: string;
    /** Told where no label is around it. */
    label?: string;
    disabled?: boolean;
    onchange?: (code: string) => void;
  }
  let { places, value = $bindable(), none, label, disabled = false, onchange }: Props = $props();

  /** More are no list any more that somebody reads. */
  const FEW = 60;
  const id = $props.id();
  let isHere = $state(false);

  function typed(event: Event & { currentTarget: HTMLInputElement }): void {
    const code = placeMeant(places, event.currentTarget.value);
    event.currentTarget.value = code;
    value = code;
    onchange?.(code);
  }
</script>

{#if places.length <= FEW}
  <select class="field" bind:value {disabled} aria-label={label} onchange={() => onchange?.(value)}
    >{#if none !== undefined}<option value="">{none}</option
      >{/if}{#each places as place (place.code)}<option value={place.code}>{sayPlace(place)}</option
      >{/each}</select
  >
{:else}
  {@const is = places.find((place) => place.code === value)}
  <span class="typed"
    ><input
      class="field number"
      {value}
      {disabled}
      aria-label={label}
      list="{id}-places"
      placeholder={none ?? 'code or a few letters'}
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
      title={is ? sayPlace(is) : undefined}
      aria-invalid={value !== '' && !is}
      onfocus={() => (isHere = true)}
      onblur={() => (isHere = false)}
      onchange={typed}
    />{#if value !== '' && !is}<span class="small stop">no such place</span>{/if}</span
  >
  {#if isHere}<datalist id="{id}-places"
      >{#each places as place (place.code)}<option value={place.code}>{sayPlace(place)}</option
        >{/each}</datalist
    >{/if}
{/if}

<style>
  .typed {
    display: inline-grid;
    gap: 2px;
  }
</style>
