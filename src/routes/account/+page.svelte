<script lang="ts">
  import SignOut from '$lib/ui/dock/SignOut.svelte';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { quickRoles } from '$lib/core/people/session-wait.ts';
  import BadgePart from '$lib/ui/people/BadgePart.svelte';
  import FactorPart from '$lib/ui/people/FactorPart.svelte';
  import PasswordPart from '$lib/ui/people/PasswordPart.svelte';
  import SessionsPart from '$lib/ui/people/SessionsPart.svelte';
  import TokensPart from '$lib/ui/people/TokensPart.svelte';

  let { data } = $props();
  const account = $derived(data.account);

  /** Once what the session waited for is there, it goes on where it was going. */
  async function changed(): Promise<void> {
    const waited = data.wait;
    await refresh();
    if (waited !== null && data.wait === null) await goto(data.to);
  }
</script>

<svelte:head><title>Your account · Earmark</title></svelte:head>
<div class="page">
  <div class="page-head">
    <h1>{account.name}</h1>
    <p class="soft">
      signs in as <b class="number">{account.login}</b> · {account.roles.join(', ') || 'no role'}
    </p>
    <div class="page-acts"><SignOut look="act" /></div>
  </div>
  {#if data.wait === 'new password'}<p class="mind first" role="status">
      Somebody else set your password and knows it. Change it; then you go on.
    </p>{:else if data.wait === 'factor set-up'}<p class="mind first" role="status">
      Your role needs a second factor. Set up time codes or a passkey; then you go on.
    </p>{/if}
  <PasswordPart {account} onchanged={changed} />
  {#if data.wait !== 'new password'}
    <FactorPart {account} isDemanded={data.isDemanded} onchanged={changed} />
    {#if data.wait === null}
      {#if quickRoles(account.roles).length > 0}<BadgePart {account} onchanged={changed} />{/if}
      <SessionsPart {account} onchanged={changed} />
      <TokensPart {account} onchanged={changed} />
    {/if}
  {/if}
</div>

<style>
  .page {
    max-width: 1000px;
  }
  .first {
    font-weight: 600;
  }
</style>
