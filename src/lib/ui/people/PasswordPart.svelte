<script lang="ts">
  import { sayInstant } from '$lib/ui/parts/say.ts';
  import { send, type Refusal } from '../frame/api.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import type { PartProps } from './account.ts';
  import AccountPart from './AccountPart.svelte';
  import PasswordField from './PasswordField.svelte';

  let { account, onchanged }: PartProps = $props();
  let old = $state('');
  let password = $state('');
  let again = $state('');
  let refusal = $state.raw<Refusal | null>(null);
  let done = $state(false);
  const differs = $derived(again !== '' && again !== password);

  async function change(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    done = false;
    if (again !== password) return;
    const reply = await send('PUT', '/api/v1/account/password', { old, password });
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    old = password = again = '';
    done = true;
    await onchanged();
  }
</script>

<AccountPart
  title="Password"
  says="Changing it ends your other sessions and your API tokens: whoever had it is out."
>
  <p>
    {#if !account.hasPassword}You have none here, and need one only to sign with. Set it within ten
      minutes of signing in.
    {:else}{account.passwordSince
        ? `Since ${sayInstant(account.passwordSince)}.`
        : 'As it was set when the account was made.'}{/if}
  </p>
  {#if done}<p class="good" role="status">Your password is changed.</p>{/if}
  <OtherErrors {refusal} known={account.hasPassword ? ['old', 'password'] : ['password']} />
  <form onsubmit={change}>
    <div class="field-row">
      {#if account.hasPassword}<PasswordField
          label="Present password"
          bind:value={old}
          fault={fieldError(refusal, 'old')}
        />{/if}
      <PasswordField
        label="New password"
        isNew
        bind:value={password}
        fault={fieldError(refusal, 'password')}
      />
      <PasswordField
        label="New password again"
        isNew
        bind:value={again}
        fault={differs ? 'The two are not the same.' : ''}
      />
    </div>
    <button class="act main" disabled={differs}
      >{account.hasPassword ? 'Change password' : 'Set password'}</button
    >
  </form>
  <p class="small soft">
    At least 12 characters, nothing known or easily guessed, not your name. A few plain words that
    do not belong together make a good one.
  </p>
</AccountPart>

<style>
  form {
    display: grid;
    gap: 12px;
    justify-items: start;
  }
  .field-row {
    align-items: start;
  }
</style>
