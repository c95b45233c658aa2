<!-- An address that is to be told what is booked: what it is called, where it is, what of. Its secret
     is shown once. -->
<script lang="ts">
  import { Checkbox, Modal, TextInput } from 'carbon-components-svelte';
  import { HOOK_TYPES, type HookType } from '$lib/core/hooks/hook-types.ts';
  import { send, type Refusal } from '../frame/api.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';

  interface Props {
    onclose: () => void;
    onmade: (secret: string) => void;
  }
  let { onclose, onmade }: Props = $props();
  const TYPES = Object.entries(HOOK_TYPES) as [HookType, string][];
  let name = $state('');
  let url = $state('');
  let types = $state<HookType[]>(['receipt.booked', 'build.booked', 'shipment.booked']);
  let refusal = $state.raw<Refusal | null>(null);

  const toggle = (type: HookType): void => {
    types = types.includes(type) ? types.filter((one) => one !== type) : [...types, type];
  };
  async function make(): Promise<void> {
    const reply = await send<{ secret: string }>('POST', '/api/v1/hooks', { name, url, types });
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) onmade(reply.body.secret);
  }
</script>

<Modal
  open
  modalLabel="New hook"
  primaryButtonText="Tell it from now on"
  primaryButtonDisabled={types.length === 0}
  secondaryButtonText="Leave it"
  on:submit={make}
  on:close={onclose}
  on:click:button--secondary={onclose}
  selectorPrimaryFocus="#hook-name"
>
  <OtherErrors {refusal} known={['name', 'url']} />
  <div class="dialog-form">
    <TextInput
      id="hook-name"
      labelText="What it is"
      placeholder="the other system, as people here call it"
      bind:value={name}
      maxlength={100}
      invalid={!!fieldError(refusal, 'name')}
      invalidText={fieldError(refusal, 'name')}
    />
    <TextInput
      labelText="Address that is told"
      placeholder="https://…"
      bind:value={url}
      maxlength={500}
      invalid={!!fieldError(refusal, 'url')}
      invalidText={fieldError(refusal, 'url')}
    />
    <fieldset>
      <legend>It is told of</legend>
      {#each TYPES as [type, says] (type)}<Checkbox
          labelText={says}
          checked={types.includes(type)}
          on:change={() => toggle(type)}
        />{/each}
    </fieldset>
  </div>
</Modal>

<style>
  fieldset {
    border: 0;
    padding: 0;
  }
</style>
