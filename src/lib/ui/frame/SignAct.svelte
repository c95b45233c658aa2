<!-- Where a plan asks for a signature: what is signed, what signing it means, by whom and why. -->
<script lang="ts">
  import { Modal, PasswordInput, TextInput } from 'carbon-components-svelte';
  import { tick } from 'svelte';
  import { SIGNED_ACTS } from '../../core/people/signing.ts';
  import { rememberFocus } from './remember-focus.ts';
  import { messagesOf, onUnsigned, send, type ToSign } from './api.ts';

  let { who }: { who: { login: string; name: string } } = $props();
  let asked = $state.raw<ToSign | null>(null);
  let login = $state('');
  let password = $state('');
  let reason = $state('');
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  let answer: (signature: string | null) => void = () => {};
  let focusAgain = async (): Promise<void> => {};

  const second = $derived(asked?.signer === 'a second person');
  const isOwn = $derived(login.trim().toUpperCase() === who.login.toUpperCase());
  const means = $derived(asked ? SIGNED_ACTS[asked.act].means : 'approved by');
  const ready = $derived(Boolean(login.trim() && password && reason.trim()) && !busy);

  onUnsigned(async (what) => {
    if (asked !== null) return null;
    focusAgain = rememberFocus();
    login = what.signer === 'a second person' ? '' : who.login;
    password = reason = '';
    refused = [];
    asked = what;
    await tick();
    document.getElementById(second ? 'sign-login' : 'sign-reason')?.focus();
    return new Promise((settle) => (answer = settle));
  });

  async function end(signature: string | null): Promise<void> {
    asked = null;
    password = '';
    answer(signature);
    await focusAgain();
  }

  async function sign(): Promise<void> {
    if (!asked || !ready) return;
    if (second && isOwn) {
      refused = [`You do this yourself, ${who.name}. Another person must sign it.`];
      return;
    }
    busy = true;
    const reply = await send<{ signature: string }>('POST', '/api/v1/signatures', {
      ...{ act: asked.act, document: asked.document, password, reason: reason.trim() },
      login: login.trim()
    });
    busy = false;
    password = '';
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await end(reply.body.signature);
    else document.getElementById('sign-password')?.focus();
  }
  function onEnter(event: KeyboardEvent): void {
    if (event.key === 'Enter') void sign();
  }
</script>

{#if asked}
  <Modal
    open
    size="sm"
    modalLabel="Signature"
    primaryButtonText="Sign"
    primaryButtonDisabled={!ready}
    secondaryButtonText="Not now"
    on:submit={sign}
    on:click:button--secondary={() => end(null)}
    on:close={() => end(null)}
    selectorPrimaryFocus={second ? '#sign-login' : '#sign-reason'}
  >
    <p>
      Where {SIGNED_ACTS[asked.act].says}, the plan asks for
      {second
        ? 'the signature of a second person'
        : 'a signature: yours, or that of somebody who may'}.
    </p>
    <p>
      Signing says <b>{means}</b>
      {isOwn ? 'you' : 'them'}: <b class="number">{asked.document}</b>. Nothing is booked before.
    </p>
    <div class="fields">
      <TextInput
        id="sign-login"
        labelText={second ? 'Name of the second person to sign in' : 'Name to sign in of who signs'}
        bind:value={login}
        autocomplete="off"
        maxlength={200}
      />
      <TextInput
        id="sign-reason"
        labelText="Why, kept with it for ever"
        bind:value={reason}
        maxlength={2000}
        on:keydown={onEnter}
      />
      <PasswordInput
        id="sign-password"
        labelText="Password of who signs"
        bind:value={password}
        autocomplete="off"
        invalid={refused.length > 0}
        invalidText={refused.join(' ')}
        on:keydown={onEnter}
      />
    </div>
  </Modal>
{/if}

<style>
  p {
    margin-bottom: 12px;
  }
  .fields {
    display: grid;
    gap: 18px;
  }
</style>
