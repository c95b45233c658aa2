<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import ClaimBox from '$lib/ui/service/ClaimBox.svelte';
  import ServiceNav from '$lib/ui/service/ServiceNav.svelte';

  let { data } = $props();
  let refused = $state.raw<string[]>([]);

  async function change(number: string, body: object): Promise<void> {
    const reply = await send<object>('PATCH', `/api/v1/claims/${encodeURIComponent(number)}`, body);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    await refresh();
  }
</script>

<svelte:head><title>Claims on suppliers · Earmark</title></svelte:head>
<ServiceNav />
<div class="page">
  <h1>Claims on suppliers</h1>
  <form class="field-row" action="/service/claims">
    <label class="stack"
      >find: our number, theirs, a part’s serial, a supplier<input
        class="field"
        name="q"
        value={data.q}
      /></label
    >
    <button class="act">Find</button>
  </form>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#each data.claims as claim (claim.number)}<ClaimBox
      {claim}
      today={data.today}
      mayServe={data.mayServe}
      onchange={(body) => change(claim.number, body)}
    />{:else}<p class="soft">
      {data.q === ''
        ? 'Nothing is claimed. A part that came out of a unit is claimed from its job: parts of one supplier are collected, and sent together.'
        : `There is none with “${data.q}”.`}
    </p>{/each}
</div>

<style>
  .field {
    min-width: min(360px, 70vw);
  }
</style>
