<!-- A new place: what it is called, where it is, and what kind of place. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { Modal } from 'carbon-components-svelte';
  import { ONLY_NEW, send, type Refusal } from '../../frame/api.ts';
  import ChoiceField from '../../parts/ChoiceField.svelte';
  import OtherErrors from '../../parts/OtherErrors.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import TextField from '../../parts/TextField.svelte';
  import { PLACE_KINDS, sayPlaceKind, type PlaceKind } from './place-kinds.ts';

  let { site, onclose }: { site: string; onclose: () => void } = $props();
  // svelte-ignore state_referenced_locally (a dialog is opened for one new place)
  let form = $state({ code: '', name: '', site, kind: 'rack' as PlaceKind });
  let refusal = $state.raw<Refusal | null>(null);
  const KINDS = PLACE_KINDS.map(([kind]) => [kind, kind] as const);

  async function keep(): Promise<void> {
    const { code, ...body } = form;
    const reply = await send<{ code: string }>(
      'PUT',
      `/api/v1/places/${encodeURIComponent(code.trim() || ' ')}`,
      body,
      ONLY_NEW
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) await goto(`/setup/places/${encodeURIComponent(reply.body.code)}`);
  }
</script>

<Modal
  open
  size="sm"
  modalLabel="New place"
  primaryButtonText="Keep place"
  secondaryButtonText="Leave it"
  on:submit={keep}
  on:close={onclose}
  on:click:button--secondary={onclose}
  selectorPrimaryFocus=".dialog-form input"
>
  <OtherErrors {refusal} known={['code', 'name', 'site', 'kind']} />
  <div class="dialog-form">
    <TextField
      label="Code"
      number
      most={60}
      bind:value={form.code}
      hint="As it stands on its label"
      error={fieldError(refusal, 'code')}
    />
    <TextField label="Name" bind:value={form.name} error={fieldError(refusal, 'name')} />
    <TextField
      label="Site"
      number
      most={60}
      bind:value={form.site}
      hint="By code; a new one is made"
      error={fieldError(refusal, 'site')}
    />
    <ChoiceField
      label="Kind"
      bind:value={form.kind}
      choices={KINDS}
      hint={sayPlaceKind(form.kind)}
      error={fieldError(refusal, 'kind')}
    />
  </div>
</Modal>
