<!-- Over a sheet: signs in at the identity provider in a tab of its own, so that the sheet stays as it is. -->
<script lang="ts">
  import { page } from '$app/state';

  /** Called with the sign-in of whoever is signed in when this tab is looked at again. */
  let { onsigned }: { onsigned: (login: string) => void } = $props();
  const name = $derived(page.data.elsewhere as string | null);
  let left = $state(false);

  async function look(): Promise<void> {
    if (!left || document.visibilityState !== 'visible') return;
    const answer = await fetch('/api/v1/account').catch(() => null);
    if (!answer?.ok) return;
    left = false;
    onsigned(((await answer.json()) as { login: string }).login);
  }
</script>

<svelte:document onvisibilitychange={look} />
<svelte:window onfocus={look} />
{#if name}<a
    class="act quiet"
    href="/sign-in/elsewhere"
    target="_blank"
    rel="noopener"
    onclick={() => (left = true)}
    aria-label="Sign in with {name}, in a tab of its own"
    >Sign in with {name} <span aria-hidden="true">↗</span></a
  >{/if}

<style>
  a {
    white-space: normal;
    text-align: center;
  }
</style>
