<!-- Shown over a sheet whose session has run out: signs in again, and what was typed stays where it is. -->
<script lang="ts">
  import { Modal, PasswordInput, TextInput } from 'carbon-components-svelte';
  import { tick } from 'svelte';
  import ElsewhereLink from './ElsewhereLink.svelte';
  import { onSignedOut, send } from './api.ts';
  import { rememberFocus } from './remember-focus.ts';
  import { pauseInTyping } from './typing-pause.ts';

  let { login }: { login: string } = $props();
  let open = $state(false);
  let name = $state('');
  let password = $state('');
  let code = $state('');
  /** Whether the password was right and the second factor is asked for. */
  let second = $state(false);
  let refused = $state('');
  let waiting: ((signedIn: boolean) => void)[] = [];
  /** Where the typing was when the dialog came up; there it goes on. */
  let focusAgain = async (): Promise<void> => {};

  onSignedOut(() => {
    const isFirst = waiting.length === 0;
    const answered = new Promise<boolean>((answer) => waiting.push(answer));
    if (isFirst) void comeUp();
    return answered;
  });

  async function comeUp(): Promise<void> {
    await pauseInTyping(document);
    focusAgain = rememberFocus();
    name = login;
    password = code = '';
    second = false;
    refused = '';
    open = true;
  }

  async function end(signedIn: boolean): Promise<void> {
    open = false;
    for (const answer of waiting) answer(signedIn);
    waiting = [];
    await focusAgain();
  }

  async function submit(): Promise<void> {
    const reply = second
      ? await send<{ wait?: string }>('POST', '/api/v1/sign-in/second', { code })
      : await send<{ wait?: string }>('POST', '/api/v1/sign-in', { login: name, password });
    refused = reply.ok ? '' : `${reply.refusal.title}. ${reply.refusal.errors[0]?.message ?? ''}`;
    if (!reply.ok) return;
    if (reply.body.wait !== 'second factor') {
      await end(true);
      return;
    }
    second = true;
    await tick();
    document.getElementById('again-code')?.focus();
  }
</script>

{#if open}
  <Modal
    open
    size="xs"
    modalLabel="Sign in again"
    primaryButtonText="Sign in"
    secondaryButtonText="Not now"
    on:submit={submit}
    on:click:button--secondary={() => end(false)}
    on:close={() => end(false)}
    selectorPrimaryFocus="#again-password"
  >
    <p class="small soft">Your sign-in has run out. What you typed is still here.</p>
    {#if second}
      <TextInput
        id="again-code"
        labelText="Code your device shows, or a recovery code"
        bind:value={code}
        autocomplete="one-time-code"
        invalid={refused !== ''}
        invalidText={refused}
        on:keydown={(event) => {
          if (event.key === 'Enter') submit();
        }}
      />
    {:else}
      <TextInput id="again-login" labelText="Name" bind:value={name} autocomplete="username" />
      <PasswordInput
        id="again-password"
        labelText="Password"
        bind:value={password}
        invalid={refused !== ''}
        invalidText={refused}
        autocomplete="current-password"
        on:keydown={(event) => {
          if (event.key === 'Enter') submit();
        }}
      />
      <ElsewhereLink onsigned={() => end(true)} />
    {/if}
  </Modal>
{/if}

<style>
  p {
    margin-bottom: 12px;
  }
</style>
