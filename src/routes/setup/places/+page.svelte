<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Modal, Select, SelectItem, TextInput } from 'carbon-components-svelte';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import OtherErrors from '$lib/ui/parts/OtherErrors.svelte';
  import { fieldError } from '$lib/ui/parts/refusal.ts';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  let open = $state(false);
  let isNew = $state(true);
  let form = $state({ code: '', name: '', site: '', kind: 'rack' });
  let refusal = $state.raw<Refusal | null>(null);
  const KINDS = ['dock', 'rack', 'bin', 'line', 'quarantine', 'dispatch'];

  function edit(place: (typeof data.rows)[number] | null): void {
    isNew = place === null;
    form = place
      ? { code: place.code, name: place.name, site: place.site, kind: place.kind }
      : { code: '', name: '', site: data.sites[0]?.code ?? '', kind: 'rack' };
    refusal = null;
    open = true;
  }
  async function save(): Promise<void> {
    const { code, ...body } = form;
    const reply = await send(
      'PUT',
      `/api/v1/places/${encodeURIComponent(code.trim() || ' ')}`,
      body,
      isNew ? ONLY_NEW : {}
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      open = false;
      await refresh();
    }
  }
</script>

<svelte:head><title>Places · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Places</h1>
    <NarrowField
      q={data.q}
      placeholder="Only code, name or site …"
      label="Only places that hold this text"
      path="/setup/places"
    />{#if data.mayEdit}<button class="act main" onclick={() => edit(null)}>New place</button>{/if}
  </div>
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Site</th><th scope="col">Code</th><th scope="col">Name</th><th scope="col"
          >Kind</th
        ><th scope="col" class="right">On hand there</th><th
          ><span class="visually-hidden">Change</span></th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.rows as place (place.code)}
        <tr
          ><td>{place.siteName}</td><td class="number"><b>{place.code}</b></td><td>{place.name}</td
          ><td>{place.kind}</td><td class="right"
            ><a href="/on-hand?q={encodeURIComponent(place.code)}">{count(place.marks, 'mark')}</a
            ></td
          ><td class="right"
            >{#if data.mayEdit}<button
                class="act quiet"
                aria-label="Change {place.code}"
                onclick={() => edit(place)}>Change</button
              >{/if}</td
          ></tr
        >
      {:else}<tr
          ><td colspan="6" class="soft"
            >{data.q
              ? 'No place holds that text.'
              : 'No place is set up yet. Goods are received into a place: a dock, a rack, a bin.'}</td
          ></tr
        >{/each}
    </tbody>
  </table>
  <ListPages page={data} of="places" path="/setup/places" />
</div>
<Modal
  bind:open
  size="sm"
  modalLabel={isNew ? 'New place' : form.code}
  primaryButtonText="Keep place"
  secondaryButtonText="Leave it"
  on:submit={save}
  on:click:button--secondary={() => (open = false)}
  selectorPrimaryFocus={isNew ? '#place-code' : '#place-name'}
>
  <OtherErrors {refusal} known={['code', 'name', 'site']} />
  <div class="dialog-form">
    <TextInput
      id="place-code"
      labelText="Code"
      bind:value={form.code}
      disabled={!isNew}
      maxlength={60}
      invalid={!!fieldError(refusal, 'code')}
      invalidText={fieldError(refusal, 'code')}
    />
    <TextInput
      id="place-name"
      labelText="Name"
      bind:value={form.name}
      maxlength={200}
      invalid={!!fieldError(refusal, 'name')}
      invalidText={fieldError(refusal, 'name')}
    />
    <TextInput
      labelText="Site, by code; a new one is made"
      bind:value={form.site}
      maxlength={60}
      invalid={!!fieldError(refusal, 'site')}
      invalidText={fieldError(refusal, 'site')}
    />
    <Select labelText="Kind" bind:selected={form.kind}
      >{#each KINDS as kind (kind)}<SelectItem value={kind} text={kind} />{/each}</Select
    >
  </div>
</Modal>
