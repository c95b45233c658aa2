<script lang="ts">
  import type { Choice } from '$lib/core/catalogue/choice.ts';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { Button, TextInput } from 'carbon-components-svelte';
  import { mayDo } from '$lib/core/people/rights.ts';
  import { send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { fieldError, otherErrors } from '$lib/ui/parts/refusal.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const WORDS = {
    purchase: { title: 'New purchase order', partner: 'Supplier', base: '/receive' },
    work: { title: 'New work order', partner: '', base: '/build' },
    sales: { title: 'New sales order', partner: 'Customer', base: '/ship' }
  };
  /** Prices are for whoever may see costs. */
  const priced = $derived(data.kind === 'purchase' && mayDo(data.actor?.roles ?? [], 'see.costs'));
  const words = $derived(WORDS[data.kind]);
  let number = $state(untrack(() => data.number));
  let partner = $state('');
  let due = $state(untrack(() => data.due));
  let note = $state('');
  function blank() {
    return { product: '', quantity: '', unit: '', price: '', announced: '' };
  }
  /** What is known of the products that were chosen, by code. */
  let known = $state.raw<Record<string, Choice>>({});
  const knownOf = (code: string): Choice | undefined => known[code.trim().toUpperCase()];
  function keepKnown(choice: Choice | null): void {
    if (choice) known = { ...known, [choice.code.toUpperCase()]: choice };
  }
  let lines = $state([blank()]);
  const unsaved = askUnlessKept(() => [number, partner, due, note, lines]);
  let refusal = $state.raw<Refusal | null>(null);
  const filled = $derived(
    lines
      .map((line, index) => ({ ...line, index }))
      .filter((line) => line.product.trim() !== '' || line.quantity.trim() !== '')
  );
  const lineError = (index: number) => {
    const at = filled.findIndex((line) => line.index === index);
    return at < 0
      ? ''
      : fieldError(
          refusal,
          ...['product', 'quantity', 'unitPrice'].map((one) => `lines[${at}].${one}`)
        );
  };
  const loose = $derived(
    otherErrors(refusal, [
      'number',
      'code',
      'partner',
      'due',
      ...filled.flatMap((_, at) =>
        ['product', 'quantity', 'unitPrice'].map((one) => `lines[${at}].${one}`)
      )
    ])
  );

  /** A pasted column of numbers, or number and lot side by side. */
  function announcedOf(product: string, text: string): Record<string, string>[] {
    const serials = knownOf(product)?.marking?.startsWith('serial');
    return text
      .split(/[\r\n]+/)
      .map((row) => row.split(/\t|;/).map((cell) => cell.trim()))
      .filter((cells) => cells[0])
      .map(([number, lot]) =>
        serials ? { serial: number!, ...(lot ? { lot } : {}) } : { lot: number! }
      );
  }

  async function save(): Promise<void> {
    const existing = await send<object>(
      'GET',
      `/api/v1/orders/${data.kind}/${encodeURIComponent(number.trim() || ' ')}`
    );
    if (existing.ok) {
      refusal = {
        status: 422,
        title: 'Taken',
        errors: [
          {
            code: 'mark.duplicate',
            path: 'number',
            message: `There is already a ${data.kind} order ${number.trim()}. Give another number.`
          }
        ]
      };
      return;
    }
    const reply = await send<{ number: string }>(
      'PUT',
      `/api/v1/orders/${data.kind}/${encodeURIComponent(number.trim() || ' ')}`,
      {
        ...(data.kind === 'work' ? {} : { partner }),
        due,
        note,
        lines: filled.map(({ product, quantity, unit, price, announced }) => ({
          product: product.trim(),
          quantity: quantity.trim(),
          ...(unit ? { unit } : {}),
          ...(price.trim() ? { unitPrice: price.trim() } : {}),
          ...(announced.trim() ? { announced: announcedOf(product, announced) } : {})
        }))
      }
    );
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    unsaved.kept();
    await goto(`${words.base}/${encodeURIComponent(reply.body.number)}`);
  }
</script>

<svelte:head><title>{words.title} · Earmark</title></svelte:head>
<form
  onsubmit={(event) => {
    event.preventDefault();
    void save();
  }}
>
  <div class="title">
    <h1>{words.title}</h1>
    <a href="/orders/import?kind={data.kind}">Enter orders from a file</a>
  </div>
  {#each loose as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="grid">
    <TextInput
      labelText="Number"
      bind:value={number}
      maxlength={60}
      required
      invalid={!!fieldError(refusal, 'number', 'code')}
      invalidText={fieldError(refusal, 'number', 'code')}
    />
    {#if data.kind !== 'work'}
      <CodeField
        label={words.partner}
        of={data.kind === 'purchase' ? 'supplier' : 'customer'}
        bind:value={partner}
        required
        error={fieldError(refusal, 'partner')}
      />
    {/if}
    <DateField label="Due" bind:value={due} required error={fieldError(refusal, 'due')} />
  </div>
  <WideTable of="lines">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Product</th><th scope="col">Quantity</th><th scope="col">Unit</th
          >{#if priced}<th scope="col">Price of one</th>{/if}{#if data.kind === 'purchase'}<th
              scope="col">Announced numbers, if known</th
            >{/if}<th><span class="visually-hidden">Remove</span></th></tr
        ></thead
      >
      <tbody>
        {#each lines as line, index (index)}
          {@const product = knownOf(line.product)}
          <tr
            ><td
              ><CodeField
                label="Product of line {index + 1}"
                quiet
                of={data.kind === 'work' ? 'made product' : 'product'}
                bind:value={line.product}
                error={lineError(index)}
                onchoice={keepKnown}
              /></td
            >
            <td
              ><input
                class="field number amount"
                inputmode="decimal"
                bind:value={line.quantity}
                aria-label="Quantity of line {index + 1}"
              /></td
            ><td class="soft"
              >{#if product?.units?.length}<select
                  class="field"
                  bind:value={line.unit}
                  aria-label="Unit of line {index + 1}"
                  ><option value="">{product.unit}</option>{#each product.units as one (one)}<option
                      value={one}>{one}</option
                    >{/each}</select
                >{:else}{product?.unit ?? ''}{/if}</td
            >
            {#if priced}<td
                ><input
                  class="field number price"
                  inputmode="decimal"
                  bind:value={line.price}
                  aria-label="Price of one, line {index + 1}"
                /></td
              >{/if}
            {#if data.kind === 'purchase'}<td
                ><textarea
                  class="field number announced"
                  rows="1"
                  bind:value={line.announced}
                  placeholder="one a row"
                  aria-label="Numbers announced for line {index + 1}"></textarea></td
              >{/if}
            <td
              >{#if lines.length > 1}<button
                  type="button"
                  class="act quiet"
                  aria-label="Remove line {index + 1}"
                  onclick={() => (lines = lines.toSpliced(index, 1))}>✕</button
                >{/if}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  </WideTable>
  {#if data.kind !== 'work'}<button
      type="button"
      class="act add"
      onclick={() => (lines = [...lines, blank()])}>Add a line</button
    >{/if}
  <TextInput labelText="Note" bind:value={note} maxlength={2000} />
  <div class="acts">
    <Button type="submit" disabled={filled.length === 0}>Enter {number || 'order'}</Button><Button
      kind="ghost"
      href={words.base}>Leave it</Button
    >
  </div>
</form>

<style>
  form {
    padding: 22px 26px 40px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 18px;
    max-width: 860px;
  }
  .grid {
    display: grid;
    grid-template-columns: repeat(3, minmax(0, 1fr));
    gap: 20px;
    align-items: start;
  }
  .title {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    gap: 16px;
  }
  .announced {
    width: 210px;
    min-height: 40px;
    padding-top: 8px;
    field-sizing: content;
    max-height: 160px;
  }
  .amount {
    width: 130px;
  }
  .price {
    width: 100px;
  }
  .add {
    justify-self: start;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
  }
  .acts {
    display: flex;
    gap: 12px;
  }
  @media (max-width: 700px) {
    form {
      padding: 14px 12px 32px;
    }
    .grid {
      grid-template-columns: 1fr;
    }
  }
</style>
