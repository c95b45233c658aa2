<script lang="ts">
  import { Modal, TextInput } from 'carbon-components-svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { ONLY_NEW, messagesOf, send } from '$lib/ui/frame/api.ts';

  let { data } = $props();
  let open = $state(false);
  let isNew = $state(false);
  let code = $state('');
  let name = $state('');
  let stations = $state<{ code: string; name: string }[]>([]);
  let products = $state('');
  let refused = $state.raw<string[]>([]);

  function edit(route: (typeof data.routes)[number] | null): void {
    isNew = route === null;
    code = route?.code ?? '';
    name = route?.name ?? '';
    stations = route?.stations.map((station) => ({ code: station.code, name: station.name })) ?? [
      { code: '', name: '' }
    ];
    products = route?.products.join(', ') ?? '';
    refused = [];
    open = true;
  }
  async function keep(): Promise<void> {
    const reply = await send(
      'PUT',
      `/api/v1/routes/${encodeURIComponent(code.trim() || ' ')}`,
      {
        name,
        stations: stations.filter((station) => station.code.trim() !== ''),
        products: products.split(/[,;\s]+/).filter(Boolean)
      },
      isNew ? ONLY_NEW : {}
    );
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    open = false;
    await refresh();
  }
  const move = (index: number, by: -1 | 1): void => {
    const next = [...stations];
    const [one] = next.splice(index, 1);
    next.splice(index + by, 0, one!);
    stations = next;
  };
</script>

<svelte:head><title>Routes · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Routes of stations</h1>
    <a class="act" href="/build/floor">The floor</a>{#if data.mayEdit}<button
        class="act main"
        onclick={() => edit(null)}>New route</button
      >{/if}
  </div>
  <p class="soft small">
    A unit goes through the stations of its product’s route in order. Its tag carries its GTIN and a
    number of its own (SGTIN-96), and its last station.
  </p>
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Route</th><th scope="col">Stations in order</th><th scope="col"
          >Products</th
        ><th><span class="visually-hidden">Change</span></th></tr
      ></thead
    >
    <tbody
      >{#each data.routes as route (route.code)}
        <tr
          ><td><b class="number">{route.code}</b><br />{route.name}</td><td
            >{#each route.stations as station, index (station.code)}{index > 0 ? ' → ' : ''}<a
                href="/build/floor/stations/{encodeURIComponent(station.code)}">{station.name}</a
              >{/each}</td
          ><td class="number">{route.products.join(', ') || 'none'}</td><td
            >{#if data.mayEdit}<button class="act" onclick={() => edit(route)}>Change</button
              >{/if}</td
          ></tr
        >
      {:else}<tr
          ><td colspan="4" class="soft"
            >No routes yet. With one, every unit named ahead on a work order is followed from
            station to station.</td
          ></tr
        >{/each}</tbody
    >
  </table>
</div>

<Modal
  bind:open
  size="sm"
  modalLabel={isNew ? 'New route' : `Change ${code}`}
  primaryButtonText="Keep"
  secondaryButtonText="Leave it"
  on:submit={keep}
  on:click:button--secondary={() => (open = false)}
  selectorPrimaryFocus="#route-code"
>
  <div class="dialog-form">
    {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
    <TextInput
      id="route-code"
      labelText="Code"
      bind:value={code}
      readonly={!isNew}
      maxlength={60}
    />
    <TextInput labelText="Name" bind:value={name} maxlength={200} />
    <fieldset>
      <legend>Stations in order</legend>
      {#each stations as station, index (index)}
        <div class="station">
          <input
            class="field number"
            bind:value={station.code}
            placeholder="code"
            maxlength="60"
            aria-label="Code of station {index + 1}"
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
            disabled={index === stations.length - 1}
            aria-label="Station {index + 1} later"
            onclick={() => move(index, 1)}>↓</button
          ><button
            type="button"
            class="act quiet"
            aria-label="Take station {index + 1} off"
            onclick={() => (stations = stations.toSpliced(index, 1))}>✕</button
          >
        </div>
      {/each}
      <button
        type="button"
        class="act"
        onclick={() => (stations = [...stations, { code: '', name: '' }])}>Add a station</button
      >
    </fieldset>
    <TextInput
      labelText="Products that take it"
      helperText="Codes, with commas between. Each needs a GTIN."
      bind:value={products}
    />
  </div>
</Modal>

<style>
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 8px;
    justify-items: start;
  }
  legend {
    font-size: 13px;
    color: var(--ink-soft);
    margin-bottom: 6px;
  }
  .station {
    display: grid;
    grid-template-columns: 110px minmax(0, 1fr) auto auto auto;
    gap: 6px;
    width: 100%;
  }
</style>
