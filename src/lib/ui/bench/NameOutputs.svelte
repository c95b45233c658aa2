<!-- Names the outputs of a work order ahead: made by the scheme, typed, or pasted; and takes names back that were not made yet. -->
<script lang="ts">
  import Messages from '../parts/Messages.svelte';
  import { untrack } from 'svelte';
  import { Modal } from 'carbon-components-svelte';
  import { messagesOf, send } from '../frame/api.ts';
  import { typedWhole } from '../parts/typed-whole.ts';
  import { count } from '../parts/say.ts';

  interface Output {
    id: number;
    number: string;
    lot: string | null;
    mark: number | null;
  }
  interface Props {
    order: string;
    product: string;
    kind: 'serial' | 'lot';
    needsLot: boolean;
    hasScheme: boolean;
    toGo: number;
    outputs: readonly Output[];
    onclose: () => void;
    ondone: (outputs: Output[]) => void;
  }
  let { order, product, kind, needsLot, hasScheme, toGo, outputs, onclose, ondone }: Props =
    $props();

  let make = $state(
    untrack(() =>
      hasScheme
        ? String(Math.max(0, toGo - outputs.filter((one) => one.mark === null).length) || '')
        : ''
    )
  );
  let typed = $state('');
  let lot = $state('');
  let picked = $state.raw(new Set<string>());
  let refused = $state.raw<string[]>([]);
  let busy = $state(false);
  const numbers = $derived(typed.split(/[\s,;]+/).filter(Boolean));
  const total = $derived(numbers.length + (Number(make) || 0));
  const path = untrack(() => `/api/v1/orders/work/${encodeURIComponent(order)}/outputs`);

  async function ask(method: 'PUT' | 'DELETE', body: object): Promise<void> {
    busy = true;
    const reply = await send<{ outputs: Output[] }>(method, path, body);
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    typed = '';
    make = '';
    picked = new Set();
    ondone(reply.body.outputs);
  }
  const toggle = (number: string): void => {
    const next = new Set(picked);
    if (!next.delete(number)) next.add(number);
    picked = next;
  };
</script>

<Modal
  open
  size="sm"
  modalLabel="Name what {order} makes"
  primaryButtonText={total > 0 ? `Name ${total}` : 'Name'}
  secondaryButtonText="Close"
  primaryButtonDisabled={total === 0 || busy}
  on:submit={() =>
    ask('PUT', {
      product,
      ...(needsLot ? { lot } : {}),
      ...(numbers.length > 0 ? { numbers } : {}),
      ...(make.trim() ? { make: typedWhole(make) } : {})
    })}
  on:click:button--secondary={onclose}
  on:close={onclose}
  selectorPrimaryFocus="#name-outputs"
>
  <Messages messages={refused} shown={6}>
    {#snippet say(message)}<p class="refused" role="alert">{message}</p>{/snippet}
  </Messages>
  <div class="fields">
    {#if hasScheme}<label class="stack"
        >make so many by the numbering scheme<input
          class="field number"
          bind:value={make}
          inputmode="numeric"
          autocomplete="off"
          maxlength="4"
        /></label
      >{/if}
    {#if needsLot}<label class="stack"
        >within lot<input
          class="field number"
          bind:value={lot}
          maxlength="60"
          autocomplete="off"
        /></label
      >{/if}
    <label class="stack"
      >{`${hasScheme ? 'or ' : ''}type or paste ${kind}s, one a line`}<textarea
        id="name-outputs"
        class="field number"
        rows="4"
        bind:value={typed}
        spellcheck="false"></textarea></label
    >
  </div>
  {#if outputs.length > 0}
    <h3>
      {count(outputs.length, 'number')} named, {outputs.filter((one) => one.mark !== null).length} made
    </h3>
    <ul>
      {#each outputs as one (one.id)}<li>
          {#if one.mark !== null}<a class="number" href="/marks/{one.mark}">{one.number}</a>
            <span class="small soft">made</span>{:else}<label
              ><input
                type="checkbox"
                checked={picked.has(one.number)}
                onchange={() => toggle(one.number)}
              /> <span class="number">{one.number}</span>{one.lot
                ? ` in lot ${one.lot}`
                : ''}</label
            >{/if}
        </li>{/each}
    </ul>
    {#if picked.size > 0}<button
        class="act danger"
        disabled={busy}
        onclick={() => ask('DELETE', { numbers: [...picked] })}
        >Take {count(picked.size, 'name')} back</button
      >{/if}
  {/if}
</Modal>

<style>
  .fields {
    display: grid;
    gap: 12px;
    margin-bottom: 14px;
  }
  textarea.field {
    height: auto;
    padding: 8px 10px;
  }
  h3 {
    font-size: 14px;
    font-weight: 600;
  }
  ul {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
    gap: 2px 14px;
    max-height: 180px;
    overflow: auto;
    margin: 6px 0 10px;
  }
  label:has(input[type='checkbox']) {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    min-height: 26px;
  }
</style>
