<!-- A route being written: its stations in their order, and the products that take it. -->
<script lang="ts">
  import { tick } from 'svelte';
  import { putRecord } from '../frame/put-record.ts';
  import CodeField from '../parts/CodeField.svelte';
  import { InPlace } from '../parts/in-place.svelte.ts';
  import { moved } from '../parts/moved.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import TextField from '../parts/TextField.svelte';

  interface Props {
    /** The route that is changed; null for a new one. */
    route: {
      code: string;
      name: string;
      stations: readonly { code: string; name: string }[];
      products: readonly string[];
      tag: string;
    } | null;
    onclose: () => void;
  }
  let { route, onclose }: Props = $props();
  const fill = () => ({
    code: route?.code ?? '',
    name: route?.name ?? '',
    stations: (route?.stations ?? [{ code: '', name: '' }]).map(({ code, name }) => ({
      ...{ code, name }
    })),
    products: (route?.products ?? []).map((code) => ({ code }))
  });
  const place = new InPlace(fill, ({ code, name, stations, products }) => {
    const given = { name, stations, products: products.map((one) => one.code.trim()) };
    return putRecord('routes', code, given, route?.tag ?? null);
  });
  place.change();
  // What is kept is read for the moment until the editor is gone.
  const form = $derived(place.form ?? fill());
  let editor: HTMLFormElement;
  $effect(() => {
    void tick().then(() => editor.querySelector<HTMLElement>('input:not([disabled])')?.focus());
  });
  const known = $derived([
    ...['code', 'name'],
    ...form.stations.map((_, index) => `stations[${index}].code`),
    ...form.products.map((_, index) => `products[${index}]`)
  ]);
  const wrong = (path: string): string => fieldError(place.refusal, path);

  async function keep(): Promise<void> {
    // What was left empty is none; what stands after it keeps its place in what is refused.
    form.stations = form.stations.filter((one) => one.code.trim() !== '' || one.name.trim() !== '');
    form.products = form.products.filter((one) => one.code.trim() !== '');
    if (await place.keep()) onclose();
  }
  const move = (index: number, by: -1 | 1): void => {
    form.stations = moved(form.stations, index, by);
  };
</script>

<form
  bind:this={editor}
  aria-label={route ? `Change ${route.code}` : 'New route'}
  onsubmit={(event) => {
    event.preventDefault();
    void keep();
  }}
>
  <OtherErrors refusal={place.refusal} {known} />
  <div class="form-fields">
    <TextField
      label="Code"
      number
      most={60}
      disabled={route !== null}
      bind:value={form.code}
      error={wrong('code')}
    />
    <TextField label="Name" bind:value={form.name} error={wrong('name')} />
  </div>
  <fieldset>
    <legend>Stations in order</legend>
    {#each form.stations as station, index (index)}
      <div class="station">
        <span class="nth number soft">{index + 1}</span>
        <input
          class="field number"
          bind:value={station.code}
          placeholder="code"
          maxlength="60"
          aria-label="Code of station {index + 1}"
          aria-invalid={wrong(`stations[${index}].code`) !== ''}
        /><input
          class="field"
          bind:value={station.name}
          placeholder="name"
          maxlength="200"
          aria-label="Name of station {index + 1}"
        />
        <button
          type="button"
          class="act quiet"
          disabled={index === 0}
          aria-label="Station {index + 1} earlier"
          onclick={() => move(index, -1)}>↑</button
        ><button
          type="button"
          class="act quiet"
          disabled={index === form.stations.length - 1}
          aria-label="Station {index + 1} later"
          onclick={() => move(index, 1)}>↓</button
        ><button
          type="button"
          class="act quiet"
          aria-label="Take station {index + 1} off"
          onclick={() => (form.stations = form.stations.toSpliced(index, 1))}>✕</button
        >
        {#if wrong(`stations[${index}].code`)}<span class="stop small says"
            >{wrong(`stations[${index}].code`)}</span
          >{/if}
      </div>
    {/each}
    <button
      type="button"
      class="act quiet"
      onclick={() => (form.stations = [...form.stations, { code: '', name: '' }])}
      >Add a station</button
    >
  </fieldset>
  <fieldset>
    <legend>Products that take it; each needs a GTIN</legend>
    {#each form.products as product, index (index)}
      <div class="product">
        <CodeField
          label="Product {index + 1}"
          quiet
          of="product"
          bind:value={product.code}
          error={wrong(`products[${index}]`)}
        /><button
          type="button"
          class="act quiet"
          aria-label="Take {product.code || `product ${index + 1}`} off"
          onclick={() => (form.products = form.products.toSpliced(index, 1))}>✕</button
        >
      </div>
    {/each}
    <button
      type="button"
      class="act quiet"
      onclick={() => (form.products = [...form.products, { code: '' }])}>Add a product</button
    >
  </fieldset>
  <div class="acts">
    <button class="act main" disabled={place.busy}>Keep {form.code.trim() || 'route'}</button
    ><button type="button" class="act" onclick={() => place.leave() && onclose()}>Leave it</button>
  </div>
</form>

<style>
  form {
    display: grid;
    gap: 14px;
    padding: 16px 18px;
    border-top: 3px solid var(--brass);
    background: var(--paper);
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 8px;
    justify-items: start;
    min-width: 0;
  }
  legend {
    font-size: 13px;
    color: var(--ink-soft);
    margin-bottom: 6px;
  }
  .station {
    display: grid;
    grid-template-columns: 20px 130px minmax(140px, 340px) auto auto auto;
    gap: 6px;
    align-items: center;
    max-width: 100%;
  }
  .says {
    grid-column: 2 / -1;
  }
  .product {
    display: flex;
    gap: 6px;
    align-items: start;
  }
  .acts {
    display: flex;
    gap: 10px;
  }
  @media (max-width: 700px) {
    .station {
      grid-template-columns: 20px minmax(0, 1fr) auto auto auto;
    }
    .station .field:nth-of-type(2) {
      grid-column: 2 / -1;
      grid-row: 2;
    }
  }
</style>
