<script lang="ts">
  import { count, sayInstant } from '$lib/ui/parts/say.ts';
  import { send, type Refusal, type Reply } from '../frame/api.ts';
  import type { PartProps } from './account.ts';
  import AccountPart from './AccountPart.svelte';
  import Confirming from './Confirming.svelte';
  import { makePasskey, passkeysWork } from './passkey.ts';
  import RecoveryCodes from './RecoveryCodes.svelte';

  let { account, isDemanded, onchanged }: PartProps & { isDemanded: boolean } = $props();
  type Act = 'time code' | 'passkey' | 'recovery' | 'without code' | { withoutKey: number };
  let act = $state.raw<Act | null>(null);
  let refusal = $state.raw<Refusal | null>(null);
  let keyName = $state('');
  let offer = $state.raw<{ secret: string; picture: string } | null>(null);
  let code = $state('');
  let recovery = $state.raw<string[]>([]);
  const factors = $derived(account.factors);
  const has = $derived(factors.timeCode || factors.passkeys > 0);

  function begin(next: Act | null): void {
    act = next;
    refusal = null;
    offer = null;
    code = '';
  }

  /** What was answered: kept, with recovery codes where they came with it; or refused. */
  async function ended(reply: Reply<{ recovery?: string[] } | null>): Promise<void> {
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    recovery = reply.body?.recovery ?? [];
    begin(null);
    // Codes are told once: whoever is led on by this must have seen them.
    if (recovery.length === 0) await onchanged();
  }

  async function offerCode(password: string): Promise<void> {
    const reply = await send<{ secret: string; picture: string }>(
      'POST',
      '/api/v1/account/time-code',
      { password }
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) offer = reply.body;
  }
  async function confirmCode(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    await ended(await send('PUT', '/api/v1/account/time-code', { code }));
  }
  const addKey = async (password: string) => ended(await makePasskey(keyName, password));
  const newCodes = async (password: string) =>
    ended(await send('POST', '/api/v1/account/recovery-codes', { password }));
  const dropCode = async (password: string) =>
    ended(await send('DELETE', '/api/v1/account/time-code', { password }));
  const dropKey = (id: number) => async (password: string) =>
    ended(await send('DELETE', `/api/v1/account/passkeys?id=${id}`, { password }));
</script>

<AccountPart
  title="Second factor"
  says="Asked for beside the password at every sign-in{isDemanded ? '; your role needs one' : ''}."
>
  {#if recovery.length > 0}
    <RecoveryCodes
      codes={recovery}
      login={account.login}
      onkept={async () => {
        recovery = [];
        await onchanged();
      }}
    />
  {/if}
  <ul>
    <li>
      <span
        ><b>Time codes</b>
        <span class="small soft"
          >{factors.timeCode
            ? 'six digits of a program on your device'
            : 'a program on your device that shows six digits'}</span
        ></span
      >{#if factors.timeCode}<button class="act quiet" onclick={() => begin('without code')}
          >Take away</button
        >{:else}<button class="act" onclick={() => begin('time code')}>Set up</button>{/if}
    </li>
    {#if act === 'without code'}<Confirming
        does="Take time codes away"
        danger
        {refusal}
        onconfirm={dropCode}
        onleave={() => begin(null)}
      />{/if}
    {#if act === 'time code' && !offer}<Confirming
        does="Set up time codes"
        {refusal}
        onconfirm={offerCode}
        onleave={() => begin(null)}
      />{/if}
    {#if offer}
      <div class="offer">
        <img src={offer.picture} alt="QR code for your program" width="180" height="180" />
        <form onsubmit={confirmCode}>
          <p>Scan it with the program, or type this into it:</p>
          <p class="number secret">{offer.secret.match(/.{1,4}/g)?.join(' ')}</p>
          {#if refusal}<p class="refused" role="alert">{refusal.errors[0]?.message}</p>{/if}
          <div class="field-row">
            <label class="stack"
              >The code it shows now<!-- svelte-ignore a11y_autofocus --><input
                class="field number"
                bind:value={code}
                inputmode="numeric"
                autocomplete="one-time-code"
                maxlength="10"
                required
                autofocus
              /></label
            >
            <button class="act main">Confirm</button>
            <button type="button" class="act quiet" onclick={() => begin(null)}>Leave it</button>
          </div>
        </form>
      </div>
    {/if}
    {#each account.passkeys as key (key.id)}
      <li>
        <span
          ><b>Passkey “{key.name}”</b>
          <span class="small soft"
            >since {sayInstant(key.since)} · {key.lastUsed
              ? `last used ${sayInstant(key.lastUsed)}`
              : 'not used yet'}</span
          ></span
        ><button class="act quiet" onclick={() => begin({ withoutKey: key.id })}>Take away</button>
      </li>
      {#if typeof act === 'object' && act?.withoutKey === key.id}<Confirming
          does="Take this passkey away"
          danger
          {refusal}
          onconfirm={dropKey(key.id)}
          onleave={() => begin(null)}
        />{/if}
    {/each}
    <li>
      <span
        ><b>{account.passkeys.length > 0 ? 'Another passkey' : 'Passkey'}</b>
        <span class="small soft">this device, or a key in your pocket</span></span
      ><button class="act" disabled={!passkeysWork()} onclick={() => begin('passkey')}>Add</button>
    </li>
    {#if !passkeysWork()}<p class="small soft">
        Passkeys need https, or localhost: here this browser has none.
      </p>{/if}
    {#if act === 'passkey'}<Confirming
        does="Add a passkey"
        {refusal}
        onconfirm={addKey}
        onleave={() => begin(null)}
        >{#snippet fields()}<label class="stack"
            >What you call it<input
              class="field"
              bind:value={keyName}
              maxlength="100"
              required
              placeholder="phone, key on my ring"
            /></label
          >{/snippet}</Confirming
      >{/if}
    {#if has}
      <li>
        <span
          ><b>Recovery codes</b>
          <span class="small" class:stop={factors.recovery < 3} class:soft={factors.recovery >= 3}
            >{count(factors.recovery, 'is', 'are')} left; each stands in once where your device is not
            at hand</span
          ></span
        ><button class="act quiet" onclick={() => begin('recovery')}>Make new ones</button>
      </li>
      {#if act === 'recovery'}<Confirming
          does="Make new codes"
          {refusal}
          onconfirm={newCodes}
          onleave={() => begin(null)}
        />{/if}
    {/if}
  </ul>
</AccountPart>

<style>
  .offer {
    display: flex;
    gap: 20px;
    flex-wrap: wrap;
    background: var(--paper);
    border: 1px solid var(--line);
    padding: 14px;
  }
  .offer form {
    display: grid;
    gap: 10px;
    align-content: start;
  }
  img {
    background: #fff;
  }
  .secret {
    font-size: 16px;
    overflow-wrap: anywhere;
  }
</style>
