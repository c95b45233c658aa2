<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Checkbox, Modal, TextArea, TextInput } from 'carbon-components-svelte';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import { typedWhole } from '$lib/ui/parts/typed-whole.ts';
  import OtherErrors from '$lib/ui/parts/OtherErrors.svelte';
  import { fieldError } from '$lib/ui/parts/refusal.ts';
  import WishesDialog from '$lib/ui/catalogue/WishesDialog.svelte';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { count } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  let open = $state(false);
  let wishing = $state.raw<(typeof data.rows)[number] | null>(null);
  let isNew = $state(true);
  const BLANK = {
    ...{ code: '', name: '', supplier: false, customer: false },
    ...{ gln: '', address: '', contact: '', warranty: '' }
  };
  let form = $state({ ...BLANK });
  let refusal = $state.raw<Refusal | null>(null);

  function edit(partner: (typeof data.rows)[number] | null): void {
    isNew = partner === null;
    const { code, name, supplier, customer, address, contact } = partner ?? BLANK;
    const gln = partner?.gln ?? '';
    const warranty = String(partner?.warrantyMonths ?? '');
    form = { code, name, supplier, customer, gln, address, contact, warranty };
    refusal = null;
    open = true;
  }
  async function save(): Promise<void> {
    const { code, warranty, ...body } = form;
    const reply = await send(
      'PUT',
      `/api/v1/partners/${encodeURIComponent(code.trim() || ' ')}`,
      { ...body, gln: body.gln.trim() || null, warrantyMonths: typedWhole(warranty) },
      isNew ? ONLY_NEW : {}
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      open = false;
      await refresh();
    }
  }
</script>

<svelte:head><title>Partners · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Partners</h1>
    <NarrowField
      q={data.q}
      placeholder="Only code or name …"
      label="Only partners that hold this text"
      path="/setup/partners"
    />{#if data.mayEdit}<button class="act main" onclick={() => edit(null)}>New partner</button
      >{/if}
  </div>
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Code</th><th scope="col">Name</th><th scope="col">Is</th><th scope="col"
          >GLN</th
        ><th scope="col" class="right">In the ledger</th><th
          ><span class="visually-hidden">Change</span></th
        ></tr
      ></thead
    >
    <tbody>
      {#each data.rows as partner (partner.code)}
        <tr
          ><td class="number"
            ><a href="/partners/{encodeURIComponent(partner.code)}"><b>{partner.code}</b></a></td
          ><td>{partner.name}</td><td
            >{[partner.supplier && 'supplier', partner.customer && 'customer']
              .filter(Boolean)
              .join(', ') || 'neither'}</td
          ><td class="number">{partner.gln ?? ''}</td><td class="right"
            >{count(partner.events, 'event')}</td
          ><td class="right"
            >{#if data.mayEdit}{#if partner.customer}<button
                  class="act quiet"
                  aria-label="What {partner.name} wishes"
                  onclick={() => (wishing = partner)}>Wishes</button
                >{/if}<button
                class="act quiet"
                aria-label="Change {partner.name}"
                onclick={() => edit(partner)}>Change</button
              >{/if}</td
          ></tr
        >
      {:else}<tr
          ><td colspan="6" class="soft"
            >No partner yet, or none that holds that text. Suppliers and customers are set up here.</td
          ></tr
        >{/each}
    </tbody>
  </table>
  <ListPages page={data} of="partners" path="/setup/partners" />
</div>
<Modal
  bind:open
  modalLabel={isNew ? 'New partner' : form.code}
  primaryButtonText="Keep partner"
  secondaryButtonText="Leave it"
  on:submit={save}
  on:click:button--secondary={() => (open = false)}
  selectorPrimaryFocus={isNew ? '#partner-code' : '#partner-name'}
>
  <OtherErrors {refusal} known={['code', 'name', 'gln', 'warrantyMonths']} />
  <div class="dialog-form">
    <TextInput
      id="partner-code"
      labelText="Code"
      bind:value={form.code}
      disabled={!isNew}
      maxlength={60}
      invalid={!!fieldError(refusal, 'code')}
      invalidText={fieldError(refusal, 'code')}
    />
    <TextInput
      id="partner-name"
      labelText="Name"
      bind:value={form.name}
      maxlength={200}
      invalid={!!fieldError(refusal, 'name')}
      invalidText={fieldError(refusal, 'name')}
    />
    <TextInput
      labelText="GLN"
      bind:value={form.gln}
      maxlength={13}
      invalid={!!fieldError(refusal, 'gln')}
      invalidText={fieldError(refusal, 'gln')}
    />
    <TextArea
      labelText="Address, as it stands on a letter"
      bind:value={form.address}
      rows={3}
      maxlength={1000}
    />
    <TextInput
      labelText="Contact: who reads a letter, with telephone or e-mail"
      bind:value={form.contact}
      maxlength={300}
    />
    {#if form.customer}<TextInput
        labelText="Months of warranty by their contract; empty: as each product says"
        bind:value={form.warranty}
        maxlength={4}
        invalid={!!fieldError(refusal, 'warrantyMonths')}
        invalidText={fieldError(refusal, 'warrantyMonths')}
      />{/if}
    <div>
      <Checkbox labelText="Supplier" bind:checked={form.supplier} /><Checkbox
        labelText="Customer"
        bind:checked={form.customer}
      />
    </div>
  </div>
</Modal>
{#if wishing}<WishesDialog partner={wishing} onclose={() => (wishing = null)} />{/if}
