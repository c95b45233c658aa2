<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import NewHook from '$lib/ui/catalogue/NewHook.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayInstant } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let isNew = $state(false);
  let secret = $state('');
  let refused = $state.raw<string[]>([]);

  async function act(method: 'POST' | 'DELETE', path: string): Promise<void> {
    const reply = await send(method, `/api/v1/hooks/${path}`);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await refresh();
  }
  async function made(told: string): Promise<void> {
    isNew = false;
    secret = told;
    await refresh();
  }
  function stateOf(hook: (typeof data.hooks)[number]): string {
    if (hook.ended) return `ended ${sayInstant(hook.ended)}`;
    const waits = hook.waiting > 0 ? `${count(hook.waiting, 'message')} to be sent` : '';
    const lost = hook.givenUp > 0 ? `${count(hook.givenUp, 'message')} given up` : '';
    return [waits, lost].filter(Boolean).join(', ') || 'nothing waits';
  }
</script>

<svelte:head><title>Hooks · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Hooks</h1>
    <p class="soft">
      Other systems that are told what is booked, signed so that they know it is us.
    </p>
    <button class="act main" onclick={() => (isNew = true)}>New hook</button>
  </div>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if secret}<div class="secret" role="alert">
      <p>Its secret, shown this once: whoever is told checks the signature with it.</p>
      <p><code class="number">{secret}</code></p>
      <button class="act" onclick={() => (secret = '')}>I have kept it</button>
    </div>{/if}
  <WideTable of="hooks">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Hook</th><th scope="col">Address</th><th scope="col">Told of</th><th
            scope="col">Stands</th
          ><th scope="col"><span class="visually-hidden">Acts</span></th></tr
        ></thead
      >
      <tbody>
        {#each data.hooks as hook (hook.id)}<tr class:ended={hook.ended !== null}
            ><td
              ><a href="/setup/hooks?hook={hook.id}" aria-current={hook.id === data.shown?.id}
                ><b>{hook.name}</b></a
              ><br /><span class="small soft">by {hook.madeBy}, {sayInstant(hook.made)}</span></td
            ><td class="number wrap">{hook.url}</td><td class="small"
              >{hook.types.map((type) => data.types[type]).join(', ')}</td
            ><td class:stop={hook.ended === null && hook.givenUp > 0}>{stateOf(hook)}</td><td
              class="right"
              >{#if !hook.ended}<button
                  class="act quiet"
                  aria-label="End {hook.name}"
                  onclick={() => act('DELETE', String(hook.id))}>End</button
                >{/if}</td
            ></tr
          >{:else}<tr
            ><td colspan="5" class="soft"
              >No other system is told yet. One that only reads can read the feed instead: see the
              API.</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  {#if data.shown && data.messages}
    <h2>Told to {data.shown.name}</h2>
    <WideTable of="what was sent">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">What</th><th scope="col">About</th><th scope="col">When</th><th
              scope="col">Stands</th
            ><th scope="col"><span class="visually-hidden">Acts</span></th></tr
          ></thead
        >
        <tbody>
          {#each data.messages.deliveries as one (one.id)}<tr
              ><td class="number">{one.type}</td><td
                ><a
                  class="number"
                  href={one.event === null
                    ? `/recall/${encodeURIComponent(one.recall ?? '')}`
                    : `/events/${one.event}`}>{one.about}</a
                ></td
              ><td>{sayInstant(one.at)}</td><td class:stop={one.state === 'given up'}
                >{one.state}{one.tries > 1
                  ? ` after ${count(one.tries, 'try', 'tries')}`
                  : ''}{one.answer ? `: ${one.answer}` : ''}{one.state === 'waiting' &&
                one.next &&
                one.tries > 0
                  ? `, again ${sayInstant(one.next)}`
                  : ''}</td
              ><td class="right"
                >{#if !data.shown.ended}<button
                    class="act quiet"
                    aria-label="Send {one.about} again"
                    onclick={() => act('POST', `${data.shown!.id}/deliveries/${one.id}`)}
                    >Send again</button
                  >{/if}</td
              ></tr
            >{:else}<tr
              ><td colspan="5" class="soft">Nothing was booked yet that it is told of.</td></tr
            >{/each}
        </tbody>
      </table>
    </WideTable>
    <Cut
      shown={data.messages.deliveries.length}
      total={data.messages.total}
      of="messages"
      rest="these are the latest"
    />
  {/if}
</div>
{#if isNew}<NewHook onclose={() => (isNew = false)} onmade={made} />{/if}

<style>
  h2 {
    font-size: 15px;
    margin: 22px 0 6px;
  }
  .secret {
    border: 1px solid var(--line);
    border-left: 4px solid var(--brass);
    background: var(--panel);
    padding: 10px 16px;
    margin-bottom: 14px;
    display: grid;
    gap: 6px;
    justify-items: start;
  }
  .wrap {
    overflow-wrap: anywhere;
    max-width: 300px;
  }
  .ended {
    color: var(--ink-soft);
  }
</style>
