<!-- A number that is on no list: which product it is of, and how much of it lies there. -->
<script lang="ts">
  import DateField from '../parts/DateField.svelte';
  import { onMount, untrack } from 'svelte';
  import { hasSerials } from '../../core/catalogue/plan.ts';
  import type { FactAsked } from '../../core/catalogue/plan.ts';
  import type { Marking } from '../../core/catalogue/marking.ts';
  import type { Countable } from './counting.svelte.ts';

  interface Props {
    number: string;
    /** Its product, where that is known; empty where it is to be said. */
    product: string;
    place: string;
    products: Record<string, { name: string; unit: string; marking: Marking }>;
    /** What the plan of a product asks of a new mark, by its code. */
    factsAsked: Record<string, readonly FactAsked[]>;
    onadd: (line: Countable, quantity: string) => void;
    oncancel: () => void;
  }
  let { number, product, place, products, factsAsked, onadd, oncancel }: Props = $props();
  let code = $state(untrack(() => product));
  let amount = $state('');
  let lot = $state('');
  let expires = $state('');
  let facts = $state<Record<string, string>>({});
  let form: HTMLFormElement;

  const known = $derived(
    Object.entries(products).find(([one]) => one.toUpperCase() === code.trim().toUpperCase())
  );
  const marking = $derived(known?.[1].marking ?? null);
  const serial = $derived(marking !== null && hasSerials(marking));
  const needsLot = $derived(marking === 'serial-in-lot');
  /** Of a number that is known, its facts are known too. */
  const asked = $derived(product || !known ? [] : (factsAsked[known[0]] ?? []));
  const ready = $derived(
    known !== undefined && (serial ? !needsLot || lot.trim() !== '' : amount.trim() !== '')
  );

  function add(): void {
    if (!ready || !known) return;
    const [of] = known;
    const dated = expires ? { expires } : {};
    const at = { product: of, place, ...dated, ...factsGiven() };
    if (serial) onadd({ ...at, serial: number, lot: lot.trim() || null }, '1');
    else onadd({ ...at, serial: null, lot: marking === 'none' ? null : number }, amount);
  }
  function factsGiven(): Pick<Countable, 'facts'> {
    const given = asked.flatMap(({ name }) => {
      const text = facts[name]?.trim();
      return text ? [[name, text] as const] : [];
    });
    return given.length > 0 ? { facts: Object.fromEntries(given) } : {};
  }
  onMount(() => form.querySelector('input')?.focus());
</script>

<form
  class="mind unknown"
  bind:this={form}
  onsubmit={(event) => {
    event.preventDefault();
    add();
  }}
>
  <p>
    <b class="number">{number}</b> is not on this list.
    {#if product}Say how much of it lies at <span class="number">{place}</span>.{:else}Say what it
      is; when the count is approved it comes to be here, found at
      <span class="number">{place}</span>.{/if}
  </p>
  {#if !product}
    <label class="stack"
      >product<input
        class="field number"
        bind:value={code}
        list="count-products"
        spellcheck="false"
        autocomplete="off"
      /></label
    >
    <datalist id="count-products"
      >{#each Object.entries(products) as [one, { name }] (one)}<option value={one}>{name}</option
        >{/each}</datalist
    >
  {/if}
  {#if needsLot}<label class="stack"
      >lot it is within<input class="field number" bind:value={lot} spellcheck="false" /></label
    >{/if}
  {#if known && !serial}<label class="stack"
      >how much, {known[1].unit}<input
        class="field number"
        bind:value={amount}
        inputmode="decimal"
      /></label
    >{/if}
  {#if known && !product && marking !== 'none'}<DateField
      label="expires, if it says so"
      monthEnds
      bind:value={expires}
    />{/if}
  {#each asked as fact (fact.name)}<label class="stack"
      >{fact.name}{fact.unit ? `, ${fact.unit}` : ''}{fact.required ? '' : ', if known'}
      {#if fact.kind === 'choice' || fact.kind === 'yes/no'}<select
          class="field"
          bind:value={facts[fact.name]}
          ><option value="">–</option
          >{#each fact.kind === 'choice' ? fact.choices : ['yes', 'no'] as one (one)}<option
              >{one}</option
            >{/each}</select
        >{:else}<input
          class="field number"
          bind:value={facts[fact.name]}
          spellcheck="false"
        />{/if}</label
    >{/each}
  <button class="act main" disabled={!ready}>Count it</button>
  <button class="act quiet" type="button" onclick={oncancel}>Leave it out</button>
</form>

<style>
  .unknown {
    display: flex;
    gap: 12px;
    align-items: end;
    flex-wrap: wrap;
  }
  p {
    flex-basis: 100%;
  }
</style>
