<!-- A locked device: whoever left comes back with the password, or anybody of the shift with badge and PIN. -->
<script lang="ts">
  import SignOut from '../dock/SignOut.svelte';
  import ElsewhereLink from './ElsewhereLink.svelte';
  import TagCard from './TagCard.svelte';
  import { messagesOf, send } from './api.ts';

  let { name, onback }: { name: string; onback: (login: string) => void } = $props();
  let byBadge = $state(false);
  let password = $state('');
  let badge = $state('');
  let pin = $state('');
  let refused = $state('');
  let busy = $state(false);
  let pinField = $state<HTMLInputElement>();

  /** A badge that is scanned ends with Enter: the PIN comes next, not yet the sending. */
  function badgeScanned(event: KeyboardEvent): void {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    pinField?.focus();
  }

  async function comeBack(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    busy = true;
    const given = byBadge ? { badge, pin } : { password };
    const reply = await send<{ login: string }>('POST', '/api/v1/session/unlock', given);
    busy = false;
    password = pin = '';
    refused = reply.ok ? '' : messagesOf(reply.refusal).join(' ');
    if (reply.ok) onback(reply.body.login);
  }
</script>

<TagCard>
  <h1>Locked</h1>
  <p>
    {byBadge
      ? 'Scan your badge and type its PIN.'
      : `${name} was here last. What was typed is kept.`}
  </p>
  {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
  <form onsubmit={comeBack}>
    {#if byBadge}
      <label class="stack"
        >Badge<!-- svelte-ignore a11y_autofocus --><input
          class="field number"
          type="password"
          bind:value={badge}
          onkeydown={badgeScanned}
          autocomplete="off"
          maxlength="100"
          required
          autofocus
        /></label
      >
      <label class="stack"
        >PIN<input
          class="field number"
          type="password"
          inputmode="numeric"
          bind:this={pinField}
          bind:value={pin}
          autocomplete="off"
          maxlength="20"
          required
        /></label
      >
    {:else}
      <label class="stack"
        >Password of {name}<!-- svelte-ignore a11y_autofocus --><input
          class="field"
          type="password"
          bind:value={password}
          autocomplete="current-password"
          maxlength="1000"
          required
          autofocus
        /></label
      >
    {/if}
    <button class="act main" disabled={busy}>Come back</button>
  </form>
  <button
    class="act quiet"
    onclick={() => {
      byBadge = !byBadge;
      refused = '';
    }}>{byBadge ? 'With the password' : 'With badge and PIN'}</button
  >
  <ElsewhereLink onsigned={onback} />
  <SignOut look="act quiet" />
</TagCard>
