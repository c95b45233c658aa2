<!-- A new person: who they are, what they may, and the password they first sign in with. -->
<script lang="ts">
  import type { Role } from '../../core/people/rights.ts';
  import { putRecord } from '../frame/put-record.ts';
  import NewDialog from '../parts/NewDialog.svelte';
  import TextField from '../parts/TextField.svelte';
  import PasswordField from './PasswordField.svelte';
  import RolesField from './RolesField.svelte';

  let { allRoles, onclose }: { allRoles: readonly Role[]; onclose: () => void } = $props();
  let form = $state({ login: '', name: '', password: '', roles: [] as Role[] });
  const keep = () => {
    const { login, password, ...body } = form;
    const given = { ...body, active: true, ...(password ? { password } : {}) };
    return putRecord<{ login: string }>('people', login, given, null);
  };
</script>

<NewDialog
  what="person"
  known={['code', 'name', 'password']}
  {keep}
  pageOf={({ login }) => `/setup/people/${encodeURIComponent(login.trim())}`}
  {onclose}
>
  {#snippet fields(wrong)}
    <TextField label="Signs in as" number most={60} bind:value={form.login} error={wrong('code')} />
    <TextField label="Name" bind:value={form.name} error={wrong('name')} />
    <PasswordField label="Password" isNew bind:value={form.password} fault={wrong('password')} />
    <p class="small soft">
      Whoever gets a password from you changes it when they first sign in. Without one only API
      tokens act for them.
    </p>
    <RolesField all={allRoles} bind:roles={form.roles} />
  {/snippet}
</NewDialog>
