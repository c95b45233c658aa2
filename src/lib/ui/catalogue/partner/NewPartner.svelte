<!-- A new partner: what they are called and what they are to us; the rest stands on their page. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { Modal } from 'carbon-components-svelte';
  import { ONLY_NEW, send, type Refusal } from '../../frame/api.ts';
  import OtherErrors from '../../parts/OtherErrors.svelte';
  import { fieldError } from '../../parts/refusal.ts';
  import TextField from '../../parts/TextField.svelte';
  import TickField from '../../parts/TickField.svelte';

  let { onclose }: { onclose: () => void } = $props();
  let form = $state({ code: '', name: '', supplier: false, customer: false });
  let refusal = $state.raw<Refusal | null>(null);

  async function keep(): Promise<void> {
    const { code, ...body } = form;
    const reply = await send<{ code: string }>(
      'PUT',
      `/api/v1/partners/${encodeURIComponent(code.trim() || ' ')}`,
      body,
      ONLY_NEW
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) await goto(`/partners/${encodeURIComponent(reply.body.code)}`);
  }
</script>

<Modal
  open
  size="sm"
  modalLabel="New partner"
  primaryButtonText="Keep partner"
  secondaryButtonText="Leave it"
  on:submit={keep}
  on:close={onclose}
  on:click:button--secondary={onclose}
  selectorPrimaryFocus=".dialog-form input"
>
  <OtherErrors {refusal} known={['code', 'name']} />
  <div class="dialog-form">
    <TextField
      label="Code"
      number
      most={60}
      bind:value={form.code}
      error={fieldError(refusal, 'code')}
    />
    <TextField label="Name" bind:value={form.name} error={fieldError(refusal, 'name')} />
    <div>
      <TickField label="Supplier: we buy from them" bind:value={form.supplier} />
      <TickField label="Customer: we ship to them" bind:value={form.customer} />
    </div>
    <p class="small soft">Address, GLN and what they wish are said on their page next.</p>
  </div>
</Modal>
