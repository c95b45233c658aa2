<script lang="ts">
  import { sayInstant } from '$lib/ui/parts/say.ts';
  import { send } from '../frame/api.ts';
  import type { PartProps } from './account.ts';
  import AccountPart from './AccountPart.svelte';
  import { sayAgent } from './say-agent.ts';

  let { account, onchanged }: PartProps = $props();

  async function end(which: string): Promise<void> {
    await send('DELETE', `/api/v1/account/sessions${which}`);
    await onchanged();
  }
</script>

<AccountPart
  title="Where you are signed in"
  says="End what you do not know, and change your password then."
>
  <ul>
    {#each account.sessions as session (session.id)}
      <li>
        <span
          ><b>{session.here ? 'Here' : sayAgent(session.agent)}</b>
          <span class="small soft"
            >{session.address || 'address not known'} · since {sayInstant(session.since)} · {session.here
              ? `ends ${sayInstant(session.until)}`
              : `last seen ${sayInstant(session.lastSeen)}`}</span
          ></span
        >{#if !session.here}<button class="act quiet" onclick={() => end(`?id=${session.id}`)}
            >End</button
          >{/if}
      </li>
    {/each}
  </ul>
  {#if account.sessions.length > 2}<p>
      <button class="act" onclick={() => end('')}>End all others</button>
    </p>{/if}
</AccountPart>
