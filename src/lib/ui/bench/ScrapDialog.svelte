<!-- Scraps a part or a finished unit under a work order: what, how much, from where, and why. -->
<script lang="ts">
  import { Modal, TextArea } from 'carbon-components-svelte';
  import { hasSerials } from '../../core/catalogue/plan.ts';
  import type { Marking } from '../../core/catalogue/marking.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { newKey } from '../frame/new-key.ts';

  interface Props {
    order: string;
    products: readonly { product: string; name: string; unit: string; marking: Marking }[];
    places: readonly { code: string; name: string; siteName: string }[];
    place: string;
    onclose: () => void;
    ondone: () => void;
  }
  let { order, products, places, place, onclose, ondone }: Props = $props();

  let product = $state('');
  let number = $state('');
  let amount = $state('1');
  let where = $state('');
  let reason = $state('');
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  const key = newKey();
  const chosen = $derived(products.find((one) => one.product === product) ?? products[0]);
  const serial = $derived(chosen !== undefined && hasSerials(chosen.marking));

  async function book(): Promise<void> {
    if (!chosen) return;
    busy = true;
    const named =
      chosen.marking === 'none' ? {} : serial ? { serial: number.trim() } : { lot: number.trim() };
    const reply = await send(
      'POST',
      '/api/v1/corrections',
      {
        document: order,
        kind: 'scrap',
        reason,
        lines: [
          {
            product: chosen.product,
            place: where || place,
            quantity: serial ? '1' : amount,
            ...named
          }
        ]
      },
      { 'idempotency-key': key }
    );
    busy = false;
    if (reply.ok) ondone();
    else refused = messagesOf(reply.refusal);
  }
</script>

<Modal
  open
  danger
  size="sm"
  modalLabel="Scrap under {order}"
  primaryButtonText="Scrap {serial ? number : `${amount} ${chosen?.unit ?? ''}`}"
  secondaryButtonText="Leave it"
  primaryButtonDisabled={busy ||
    reason.trim() === '' ||
    (chosen?.marking !== 'none' && number.trim() === '')}
  on:submit={book}
  on:click:button--secondary={onclose}
  on:close={onclose}
  selectorPrimaryFocus="#scrap-what"
>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="fields">
    <label class="stack"
      >what<select id="scrap-what" class="field" bind:value={product}
        >{#each products as one, index (one.product)}<option value={index === 0 ? '' : one.product}
            >{one.product} {one.name}</option
          >{/each}</select
      ></label
    >
    {#if chosen?.marking !== 'none'}<label class="stack"
        >{serial ? 'serial' : 'lot'}<input
          class="field number"
          bind:value={number}
          maxlength="200"
          autocomplete="off"
        /></label
      >{/if}
    {#if !serial}<label class="stack"
        >how much, {chosen?.unit}<input
          class="field number"
          bind:value={amount}
          inputmode="decimal"
          autocomplete="off"
        /></label
      >{/if}
    <label class="stack"
      >lying at<select class="field" bind:value={where}
        >{#each places as one (one.code)}<option value={one.code === place ? '' : one.code}
            >{one.siteName}, {one.name}</option
          >{/each}</select
      ></label
    >
  </div>
  <TextArea labelText="Reason, kept for ever" bind:value={reason} maxlength={2000} rows={2} />
</Modal>

<style>
  .fields {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 12px 16px;
    margin: 0 0 12px;
  }
</style>
