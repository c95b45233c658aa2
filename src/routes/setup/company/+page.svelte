<script lang="ts">
  import { untrack } from 'svelte';
  import { Button, TextArea, TextInput } from 'carbon-components-svelte';
  import { makeSscc, saySscc } from '$lib/core/gs1/sscc.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';

  let { data } = $props();
  let given = $state(untrack(() => ({ ...data.company })));
  const unsaved = askUnlessKept(() => given);
  let refused = $state.raw<string[]>([]);
  let kept = $state(false);
  /** How traces are answered, for whoever looks after this installation. */
  const traces = $derived(
    !data.index || data.index.state === 'off'
      ? `Traces are read from the database${data.index?.reason ? `: ${data.index.reason}` : '.'}`
      : data.index.state === 'starting'
        ? 'The ledger is being read into memory; until then traces are read from the database.'
        : `Traces are answered from memory: ${data.index.links.toLocaleString('en-GB')} links in ${Math.max(1, Math.round(data.index.bytes / 1_048_576)).toLocaleString('en-GB')} MB, ${data.index.added.toLocaleString('en-GB')} rows booked since it was packed, up to date at every question.`
  );
  const prefixIsGood = $derived(/^[0-9]{6,12}$/.test(given.gs1Prefix));
  const currencyOf = (typed: string | number | null) =>
    String(typed ?? '')
      .trim()
      .toUpperCase() || null;
  const currencyIsGood = $derived(given.currency === null || /^[A-Z]{3}$/.test(given.currency));
  async function keep(): Promise<void> {
    const reply = await send('PUT', '/api/v1/company', given);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    kept = reply.ok;
    if (reply.ok) unsaved.kept();
  }
</script>

<svelte:head><title>Our company · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head"><h1>Our company</h1></div>
  <p class="soft">
    How we are named on labels, delivery notes, notices and letters, and the prefix our cartons and
    pallets are numbered with.
  </p>
  <div class="form">
    <TextInput labelText="Name" bind:value={given.name} maxlength={200} disabled={!data.mayEdit} />
    <TextArea
      labelText="Address"
      bind:value={given.address}
      rows={3}
      maxlength={1000}
      disabled={!data.mayEdit}
    />
    <TextInput
      labelText="GS1 company prefix"
      helperText="Six to twelve digits, as GS1 gave them to you. 952 is set aside for examples."
      bind:value={given.gs1Prefix}
      maxlength={12}
      disabled={!data.mayEdit}
      invalid={!prefixIsGood}
      invalidText="Six to twelve digits, nothing else."
    />
    <p class="small">
      The first carton would be <span class="number"
        >{prefixIsGood ? saySscc(makeSscc(given.gs1Prefix, 1)) : '–'}</span
      >. SSCCs given before keep their prefix.
    </p>
    <TextInput
      labelText="Currency of costs"
      helperText="Three letters, such as EUR. Where it is set, what is found is booked with its cost; leave it empty where costs are not kept."
      value={given.currency ?? ''}
      on:input={(event) => (given.currency = currencyOf(event.detail))}
      maxlength={3}
      disabled={!data.mayEdit}
      invalid={!currencyIsGood}
      invalidText="Three letters, nothing else."
    />
    {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
    {#if kept}<p class="good" role="status">✓ Kept.</p>{/if}
    {#if data.mayEdit}<div>
        <Button
          size="field"
          disabled={!prefixIsGood || !currencyIsGood || !given.name.trim()}
          onclick={keep}>Keep</Button
        >
      </div>{/if}
  </div>
  <p class="soft small installation">{traces}</p>
</div>

<style>
  .installation {
    margin-top: 32px;
    max-width: 520px;
  }
  .form {
    display: grid;
    gap: 16px;
    max-width: 520px;
    margin-top: 16px;
  }
</style>
