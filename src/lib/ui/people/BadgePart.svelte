<script lang="ts">
  import { send, type Refusal } from '../frame/api.ts';
  import { fieldError } from '../parts/refusal.ts';
  import type { PartProps } from './account.ts';
  import AccountPart from './AccountPart.svelte';
  import Confirming from './Confirming.svelte';

  let { account, onchanged }: PartProps = $props();
  let open = $state(false);
  let badge = $state('');
  let pin = $state('');
  let refusal = $state.raw<Refusal | null>(null);

  function leave(): void {
    open = false;
    badge = pin = '';
    refusal = null;
  }
  async function keep(password: string): Promise<void> {
    const reply = await send('PUT', '/api/v1/account/badge', { badge, pin, password });
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    leave();
    await onchanged();
  }
  async function drop(): Promise<void> {
    await send('DELETE', '/api/v1/account/badge');
    await onchanged();
  }
</script>

<AccountPart
  title="Badge and PIN"
  says="Bring you back to a locked device at the bench or the dock, for what is done there; what decides, approves or signs still takes the password."
>
  <p class="line">
    {account.badge ? 'A badge is tied to you.' : 'None yet.'}
    <button class="act" onclick={() => (open = true)}
      >{account.badge ? 'Another badge or PIN' : 'Tie a badge'}</button
    >
    {#if account.badge}<button class="act quiet" onclick={drop}>Take away</button>{/if}
  </p>
  {#if open}<Confirming does="Tie this badge" {refusal} onconfirm={keep} onleave={leave}
      >{#snippet fields()}<label class="stack"
          >Badge, scanned or typed<!-- svelte-ignore a11y_autofocus --><input
            class="field number"
            type="password"
            bind:value={badge}
            autocomplete="off"
            minlength="4"
            maxlength="100"
            required
            autofocus
            onkeydown={(event) => event.key === 'Enter' && event.preventDefault()}
          />{#if fieldError(refusal, 'badge')}<span class="stop"
              >{fieldError(refusal, 'badge')}</span
            >{/if}</label
        ><label class="stack"
          >PIN, 6 digits or more<input
            class="field number"
            type="password"
            inputmode="numeric"
            bind:value={pin}
            autocomplete="off"
            maxlength="12"
            required
          />{#if fieldError(refusal, 'pin')}<span class="stop">{fieldError(refusal, 'pin')}</span
            >{/if}</label
        >{/snippet}</Confirming
    >{/if}
</AccountPart>

<style>
  .line {
    display: flex;
    gap: 12px;
    align-items: center;
    flex-wrap: wrap;
  }
</style>
