<!-- A new person: who they are, what they may, and the password they first sign in with. -->
<script lang="ts">
  import { goto } from '$app/navigation';
  import { Modal } from 'carbon-components-svelte';
  import type { Role } from '../../core/people/rights.ts';
  import { ONLY_NEW, send, type Refusal } from '../frame/api.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import TextField from '../parts/TextField.svelte';
  import PasswordField from './PasswordField.svelte';
  import RolesField from './RolesField.svelte';

  let { allRoles, onclose }: { allRoles: readonly Role[]; onclose: () => void } = $props();
  let form = $state({ login: '', name: '', password: '', roles: [] as Role[] });
  let refusal = $state.raw<Refusal | null>(null);

  async function keep(): Promise<void> {
    const { login, password, ...body } = form;
    const reply = await send<{ login: string }>(
      'PUT',
      `/api/v1/people/${encodeURIComponent(login.trim() || ' ')}`,
      { ...body, active: true, ...(password ? { password } : {}) },
      ONLY_NEW
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) await goto(`/setup/people/${encodeURIComponent(reply.body.login.trim())}`);
  }
</script>

<Modal
  open
  modalLabel="New person"
  primaryButtonText="Keep person"
  secondaryButtonText="Leave it"
  on:submit={keep}
  on:close={onclose}
  on:click:button--secondary={onclose}
  selectorPrimaryFocus=".dialog-form input"
>
  <OtherErrors {refusal} known={['code', 'name', 'password']} />
  <div class="dialog-form">
    <TextField
      label="Signs in as"
      number
      most={60}
      bind:value={form.login}
      error={fieldError(refusal, 'code')}
    />
    <TextField label="Name" bind:value={form.name} error={fieldError(refusal, 'name')} />
    <PasswordField
      label="Password"
      isNew
      bind:value={form.password}
      fault={fieldError(refusal, 'password')}
    />
    <p class="small soft">
      Whoever gets a password from you changes it when they first sign in. Without one only API
      tokens act for them.
    </p>
    <RolesField all={allRoles} bind:roles={form.roles} />
  </div>
</Modal>
