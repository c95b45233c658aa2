<script lang="ts">
  import type { Choice } from '$lib/core/catalogue/choice.ts';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { fieldError, otherErrors } from '$lib/ui/parts/refusal.ts';
  import StockNav from '$lib/ui/stock/StockNav.svelte';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const before = untrack(() => data.before);
  let document = $state(
    untrack(() => before?.document ?? `TR-${data.today.slice(2).replaceAll('-', '')}`)
  );
  let from = $state(untrack(() => before?.from ?? data.sites[0]?.code ?? ''));
  let to = $state(untrack(() => before?.to ?? data.sites[1]?.code ?? ''));
  let due = $state(before?.order?.due ?? '');
  let note = $state(before?.order?.note ?? '');
  const blank = () => ({ product: '', quantity: '' });
  let lines = $state([
    ...(before?.order?.lines ?? []).map(({ product, quantity }) => ({ product, quantity })),
    blank()
  ]);
  const unsaved = askUnlessKept(() => [document, from, to, due, note, lines]);
  let refusal = $state.raw<Refusal | null>(null);
  let busy = $state(false);
  /** What is known of the products that were chosen, by code. */
  let known = $state.raw(
    untrack(() => new Map(data.known.map((one) => [one.code.toUpperCase(), one])))
  );
  function keepKnown(choice: Choice | null): void {
    if (choice) known = new Map(known).set(choice.code.toUpperCase(), choice);
  }
  const productOf = (line: { product: string }) => known.get(line.product.trim().toUpperCase());
  const filled = $derived(
    lines.flatMap((line, index) => (line.product.trim() || line.quantity.trim() ? [index] : []))
  );
  const pathsOf = (at: number) => [`lines[${at}].product`, `lines[${at}].quantity`];
  const loose = $derived(
    otherErrors(refusal, [
      'document',
      'from',
      'to',
      'due',
      ...filled.flatMap((_, at) => pathsOf(at))
    ])
  );
  const ready = $derived(filled.length > 0 && from !== to && document.trim() !== '' && !busy);

  function lineError(index: number): string {
    const at = filled.indexOf(index);
    return at < 0 ? '' : fieldError(refusal, ...pathsOf(at));
  }
  /** A line is always left to type into. */
  function moreLines(): void {
    const last = lines.at(-1)!;
    if (last.product.trim() || last.quantity.trim()) lines = [...lines, blank()];
  }
  /** A number that is taken is refused here: whoever orders anew does not mean to change another. */
  async function taken(name: string): Promise<boolean> {
    if (before) return false;
    const reply = await send<object>('GET', `/api/v1/transfers/${encodeURIComponent(name)}`);
    return reply.ok;
  }
  async function order(): Promise<void> {
    if (!ready) return;
    busy = true;
    const name = document.trim();
    if (await taken(name)) {
      const message = `There is already a transfer ${name}. Give another number.`;
      const errors = [{ code: 'mark.duplicate', path: 'document', message }];
      refusal = { status: 422, title: 'Taken', errors };
      busy = false;
      return;
    }
    const body = {
      from,
      to,
      note,
      due: due || null,
      lines: filled.map((index) => ({
        product: lines[index]!.product.trim(),
        quantity: lines[index]!.quantity.trim()
      }))
    };
    const reply = await send('PUT', `/api/v1/transfers/${encodeURIComponent(name)}`, body);
    busy = false;
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    unsaved.kept();
    await goto(`/transfer/${encodeURIComponent(name)}`);
  }
</script>

<svelte:head><title>Order a transfer · Earmark</title></svelte:head>
<StockNav />
<form
  class="page narrow"
  onsubmit={(event) => {
    event.preventDefault();
    void order();
  }}
>
  <h1>{before ? `Change ${before.document}` : 'Order a transfer'}</h1>
  <p class="soft">
    What one site is to send to another. It stands under <i>To send</i> until all of it has left.
  </p>
  {#each loose as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="field-row">
    {#snippet site(label: string, value: string, choose: (code: string) => void)}
      <label class="stack"
        >{label}<select
          class="field"
          {value}
          disabled={before !== null}
          onchange={(event) => choose(event.currentTarget.value)}
          >{#each data.sites as one (one.code)}<option value={one.code}>{one.name}</option
            >{/each}</select
        ></label
      >
    {/snippet}
    {@render site('from', from, (code) => (from = code))}
    {@render site('to', to, (code) => (to = code))}
    <label class="stack"
      >document<input
        class="field number"
        bind:value={document}
        disabled={before !== null}
        maxlength="50"
      /></label
    >
    <DateField label="to have left by" bind:value={due} />
  </div>
  {#each ['document', 'from', 'to', 'due'] as field (field)}{#if fieldError(refusal, field)}<p
        class="refused"
        role="alert"
      >
        {fieldError(refusal, field)}
      </p>{/if}{/each}
  {#if from === to}<p class="refused" role="alert">
      A transfer goes to another site; within a site goods are moved.
    </p>{/if}
  <WideTable of="lines">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Product</th><th scope="col">How much</th><th scope="col"
            ><span class="visually-hidden">Unit and name</span></th
          ></tr
        ></thead
      >
      <tbody>
        {#each lines as line, index (index)}
          <tr
            ><td
              ><CodeField
                label="Product of line {index + 1}"
                quiet
                of="product"
                bind:value={
                  () => line.product,
                  (code) => {
                    line.product = code;
                    moreLines();
                  }
                }
                name={productOf(line)?.name ?? ''}
                error={lineError(index)}
                onchoice={keepKnown}
              /></td
            >
            <td
              ><input
                class="field number amount"
                inputmode="decimal"
                bind:value={line.quantity}
                oninput={moreLines}
                aria-label="Quantity of line {index + 1}"
              /></td
            >
            <td class="soft"
              >{#if productOf(line)}{productOf(line)!.unit} · {productOf(line)!.name}{/if}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </WideTable>
  <label class="stack note">note<input class="field" bind:value={note} maxlength="2000" /></label>
  <div class="field-row">
    <button class="act main" disabled={!ready}
      >{before ? `Keep ${document}` : `Order ${document}`}</button
    ><a
      class="act quiet"
      href={before ? `/transfer/${encodeURIComponent(before.document)}` : '/transfer'}>Leave it</a
    >
  </div>
</form>

<style>
  .narrow {
    max-width: 860px;
  }
  table {
    width: auto;
    justify-self: start;
    min-width: 560px;
  }
  .note {
    max-width: 560px;
  }
  .amount {
    width: 130px;
  }
</style>
