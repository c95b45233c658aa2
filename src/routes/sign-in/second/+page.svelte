<script lang="ts">
  import SignOut from '$lib/ui/dock/SignOut.svelte';
  import { enhance } from '$app/forms';
  import TagCard from '$lib/ui/frame/TagCard.svelte';
  import { messagesOf } from '$lib/ui/frame/api.ts';
  import { answerWithPasskey, passkeysWork } from '$lib/ui/people/passkey.ts';

  let { data, form } = $props();
  let refused = $state('');
  const byCode = $derived(data.factors.timeCode || data.factors.recovery > 0);
  const says = $derived(refused || form?.message || '');

  async function withPasskey(): Promise<void> {
    refused = '';
    const reply = await answerWithPasskey();
    if (reply.ok) location.assign(data.to);
    else refused = messagesOf(reply.refusal).join(' ');
  }
</script>

<svelte:head><title>Second factor · Sign in · Earmark</title></svelte:head>
<TagCard>
  <h1>One thing more</h1>
  <p>
    {data.factors.timeCode
      ? 'The six digits your device shows now, or a recovery code.'
      : 'Your passkey, or a recovery code.'}
  </p>
  {#if says}<p class="refused" role="alert">{says}</p>{/if}
  {#if data.factors.passkeys > 0}
    <button class="act" class:main={!data.factors.timeCode} onclick={withPasskey}
      >Use a passkey</button
    >
    {#if !passkeysWork()}<p class="small soft">
        Passkeys need https, or localhost. Type a recovery code here.
      </p>{/if}
  {/if}
  {#if byCode}<form method="POST" use:enhance>
      <label class="stack"
        >Code<!-- svelte-ignore a11y_autofocus --><input
          class="field number"
          name="code"
          autocomplete="one-time-code"
          inputmode={data.factors.timeCode ? 'numeric' : 'text'}
          required
          autofocus
          maxlength="60"
          spellcheck="false"
        /></label
      >
      <button class="act main">Go on</button>
    </form>{/if}
  <SignOut look="act quiet" says="Sign in as somebody else" />
</TagCard>
