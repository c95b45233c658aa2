<script lang="ts">
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { sayInstant } from '$lib/ui/parts/say.ts';
  import { send } from '../frame/api.ts';
  import type { PartProps } from './account.ts';
  import AccountPart from './AccountPart.svelte';

  let { account, onchanged }: PartProps = $props();
  const live = $derived(account.tokens.filter((token) => !token.revoked));

  async function revoke(id: number): Promise<void> {
    await send('DELETE', `/api/v1/account/tokens?id=${id}`);
    await onchanged();
  }
</script>

<AccountPart
  title="API tokens"
  says="What scripts and other systems book by under your name. An administrator makes them."
>
  {#if live.length === 0}<p class="soft">None.</p>{/if}
  <ul>
    {#each live as token (token.id)}
      <li>
        <span
          ><b>{token.name}</b>
          <span class="small soft"
            >{token.roles.join(', ')} · since {sayDay(token.created.slice(0, 10))}{token.madeBy
              ? `, made by ${token.madeBy}`
              : ''}{token.until ? ` · until ${sayDay(token.until.slice(0, 10))}` : ''} · {token.lastUsed
              ? `last used ${sayInstant(token.lastUsed)}`
              : 'never used'}</span
          ></span
        ><button class="act danger" onclick={() => revoke(token.id)}>End it</button>
      </li>
    {/each}
  </ul>
</AccountPart>
