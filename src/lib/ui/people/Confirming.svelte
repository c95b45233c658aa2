<!-- What guards an account is changed only by whoever types the password once more. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Refusal } from '../frame/api.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import PasswordField from './PasswordField.svelte';

  let {
    does,
    refusal,
    danger = false,
    onconfirm,
    onleave,
    fields
  }: {
    /** What the button does, as it says. */
    does: string;
    refusal: Refusal | null;
    danger?: boolean;
    onconfirm: (password: string) => Promise<void>;
    onleave: () => void;
    /** Fields before the password. */
    fields?: Snippet;
  } = $props();
  let password = $state('');
  let busy = $state(false);

  async function confirm(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    busy = true;
    await onconfirm(password);
    busy = false;
  }
</script>

<form onsubmit={confirm} class="box">
  <OtherErrors {refusal} known={['password', 'badge', 'pin', 'name']} />
  <div class="field-row">
    {@render fields?.()}
    <PasswordField
      label="Your password"
      bind:value={password}
      fault={fieldError(refusal, 'password')}
    />
    <button class="act" class:main={!danger} class:danger disabled={busy}>{does}</button>
    <button type="button" class="act quiet" onclick={onleave}>Leave it</button>
  </div>
</form>

<style>
  .box {
    background: var(--paper);
    border: 1px solid var(--line);
    padding: 12px 14px;
  }
  /* Below a field stands what is wrong with it; the buttons stay beside the fields. */
  .field-row {
    align-items: start;
  }
  .field-row :global(.stack) {
    max-width: 220px;
  }
  button {
    margin-top: 22px;
  }
</style>
