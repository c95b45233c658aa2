<!-- Records a test of a lot or serial: what was measured, with what and when. A second person signs it off. -->
<script lang="ts">
  import { untrack } from 'svelte';
  import { Modal } from 'carbon-components-svelte';
  import { judge, sayLimit, type Limit } from '../../core/quality/spec.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { newKey } from '../frame/new-key.ts';

  interface Props {
    mark: { product: string; kind: string; number: string | null };
    limits: readonly Limit[];
    sampling: string;
    onclose: () => void;
    ondone: (says: string) => void;
  }
  let { mark, limits, sampling, onclose, ondone }: Props = $props();
  let values = $state<Record<string, string>>({});
  let units = $state<Record<string, string>>(
    Object.fromEntries(untrack(() => limits.map((limit) => [limit.name, limit.unit])))
  );
  let instrument = $state('');
  let sample = $state(untrack(() => sampling));
  let note = $state('');
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  const key = newKey();
  const given = $derived(limits.filter((limit) => (values[limit.name] ?? '').trim() !== ''));
  const verdictOf = (limit: Limit) =>
    (values[limit.name] ?? '').trim() === ''
      ? null
      : judge(limit, {
          name: limit.name,
          value: values[limit.name]!.trim(),
          unit: units[limit.name] ?? ''
        });

  async function keep(): Promise<void> {
    busy = true;
    const reply = await send<{
      id: number;
      failed: string[];
      heldBy: number | null;
      retest: string | null;
    }>(
      'POST',
      '/api/v1/tests',
      {
        product: mark.product,
        ...(mark.kind === 'serial' ? { serial: mark.number } : { lot: mark.number }),
        instrument,
        sample,
        note,
        results: given.map((limit) => ({
          name: limit.name,
          value: values[limit.name]!.trim(),
          unit: limit.kind === 'number' ? (units[limit.name] ?? '') : ''
        }))
      },
      { 'idempotency-key': key }
    );
    busy = false;
    if (!reply.ok) {
      refused = messagesOf(reply.refusal);
      return;
    }
    ondone(
      reply.body.heldBy === null
        ? reply.body.failed.length > 0
          ? `Test ${reply.body.id} is kept: ${reply.body.failed.join('; ')}.`
          : `Test ${reply.body.id} is kept. A second person signs it off.`
        : `Test ${reply.body.id} is kept, and ${mark.number} is held: ${reply.body.failed.join('; ')}.`
    );
  }
</script>

<Modal
  open
  size="sm"
  modalLabel="Test {mark.number}"
  primaryButtonText="Keep the test"
  secondaryButtonText="Leave it"
  primaryButtonDisabled={given.length === 0 || busy}
  on:submit={keep}
  on:click:button--secondary={onclose}
  on:close={onclose}
  selectorPrimaryFocus="#test-0"
>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="rows">
    {#each limits as limit, index (limit.name)}
      {@const judged = verdictOf(limit)}
      <label for="test-{index}"
        ><b>{limit.name}</b>{limit.required ? ' *' : ''}<br /><span class="small soft"
          >{sayLimit(limit)}</span
        ></label
      >
      {#if limit.kind === 'choice' || limit.kind === 'yes/no'}<select
          id="test-{index}"
          class="field"
          bind:value={values[limit.name]}
          ><option value=""
          ></option>{#each limit.kind === 'choice' ? limit.choices : ['yes', 'no'] as choice (choice)}<option
              value={choice}>{choice}</option
            >{/each}</select
        ><span></span>
      {:else}<input
          id="test-{index}"
          class="field number"
          bind:value={values[limit.name]}
          inputmode={limit.kind === 'number' ? 'decimal' : 'text'}
          autocomplete="off"
        />{#if limit.kind === 'number'}<input
            class="field unit"
            bind:value={units[limit.name]}
            aria-label="Unit of {limit.name}"
            maxlength="20"
          />{:else}<span></span>{/if}{/if}
      <span
        class="small"
        class:good={judged?.verdict === 'conforms'}
        class:stop={judged !== null && judged.verdict !== 'conforms'}
        >{judged ? (judged.verdict === 'conforms' ? '✓' : judged.why) : ''}</span
      >
    {/each}
  </div>
  <div class="more">
    <label class="stack"
      >instrument<input class="field" bind:value={instrument} maxlength="200" /></label
    ><label class="stack">sample<input class="field" bind:value={sample} maxlength="200" /></label
    ><label class="stack wide">note<input class="field" bind:value={note} maxlength="2000" /></label
    >
  </div>
</Modal>

<style>
  .rows {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 120px 64px minmax(90px, 0.9fr);
    gap: 8px 10px;
    align-items: center;
  }
  .unit {
    width: 100%;
  }
  .rows .field {
    width: 100%;
  }
  .more {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px 14px;
    margin-top: 14px;
  }
  .wide {
    grid-column: 1 / -1;
  }
  .more .field {
    width: 100%;
  }
</style>
