<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import { untrack } from 'svelte';
  import { hasSerials } from '$lib/core/catalogue/plan.ts';
  import { send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import BookedPanel from '$lib/ui/bench/BookedPanel.svelte';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import type { Booked, Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import UnitHead from '$lib/ui/making/UnitHead.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayAmount } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  type Fate = 'out' | 'lost' | 'leave';
  interface Part {
    product: string;
    number: string;
    kind: 'lot' | 'serial' | 'bulk';
    quantity: string;
    fate: Fate;
    place: string;
    known: boolean;
    name: string;
    unit: string;
  }
  let parts = $state(
    untrack((): Part[] =>
      data.parts.map((line) =>
        line.mark
          ? {
              product: line.product,
              number: line.mark.number ?? '',
              kind: line.mark.kind,
              quantity: line.quantity,
              fate: 'out',
              place: '',
              known: true,
              name: line.mark.name,
              unit: line.mark.unit
            }
          : {
              product: line.product,
              number: '',
              kind: hasSerials(
                data.products.find((one) => one.code === line.product)?.marking ?? 'lot'
              )
                ? 'serial'
                : 'lot',
              quantity: line.wanted ?? '1',
              fate: 'leave',
              place: '',
              known: false,
              name: 'not named at its build',
              unit: ''
            }
      )
    )
  );
  let place = $state(untrack(() => data.lies ?? data.places[0]?.code ?? ''));
  let amount = $state('1');
  let document = $state(
    untrack(() => `TD-${data.today.slice(2).replaceAll('-', '')}-${data.mark.id}`)
  );
  let reason = $state('');
  let faults = $state.raw<readonly Fault[]>([]);
  const going = new GoingOn();
  let booked = $state.raw<Booked | null>(null);
  const unsaved = askUnlessKept(() => [parts, place, amount, reason]);
  let busy = $state(false);
  let key = newKey();
  const out = $derived(parts.filter((part) => part.fate === 'out')),
    lost = $derived(parts.filter((part) => part.fate === 'lost'));

  async function book(): Promise<void> {
    busy = true;
    const reply = await send<Booked>(
      'POST',
      '/api/v1/teardowns',
      {
        document,
        place,
        ...(reason.trim() ? { reason } : {}),
        ...going.given,
        units: [
          {
            product: data.mark.product,
            ...(data.mark.kind === 'serial'
              ? { serial: data.mark.number, quantity: '1' }
              : { lot: data.mark.number, quantity: amount }),
            parts: parts
              .filter((part) => part.fate !== 'leave')
              .map((part) => ({
                product: part.product,
                quantity: part.quantity,
                ...(part.number.trim()
                  ? { [part.kind === 'serial' ? 'serial' : 'lot']: part.number.trim() }
                  : {}),
                ...(part.place ? { place: part.place } : {}),
                ...(part.fate === 'lost' ? { lost: true } : {})
              }))
          }
        ]
      },
      { 'idempotency-key': key }
    );
    busy = false;
    if (reply.ok) {
      booked = reply.body;
      unsaved.kept();
      key = newKey();
    } else
      faults =
        reply.refusal.errors.length > 0
          ? (reply.refusal.errors as Fault[])
          : [{ code: '', path: '', message: reply.refusal.title }];
  }
  const sent = (index: number): number =>
    parts.slice(0, index).filter((part) => part.fate !== 'leave').length;
  const faultOf = (index: number): string =>
    parts[index]!.fate === 'leave'
      ? ''
      : faults
          .filter((fault) => fault.path.startsWith(`units[0].parts[${sent(index)}]`))
          .map((fault) => fault.message)
          .join(' ');
  const FATES: [Fate, string][] = [
    ['out', 'comes out'],
    ['lost', 'is lost'],
    ['leave', 'not said']
  ];
</script>

<svelte:head><title>Take {data.mark.number} apart · Earmark</title></svelte:head>
{#if booked}
  <BookedPanel
    {booked}
    verb="Taken apart on"
    next={{ href: `/marks/${data.mark.id}`, says: `${data.mark.number}` }}
    onagain={null}
  />
{:else}
  <div class="screen">
    <UnitHead mark={data.mark} title="Take it apart"
      >It leaves stock, and its own components come back: the very ones it was built from.</UnitHead
    >
    {#if data.onHand === '0'}<p class="refused">
        {data.mark.number} is not on hand, so it cannot be taken apart.
      </p>{/if}
    {#each faults.filter((fault) => !fault.path.startsWith('units[0].parts[')) as fault, index (index)}<p
        class="refused"
        role="alert"
      >
        {fault.message}
      </p>{/each}
    <GoOn {document} {faults} {going} again={book} />
    <div class="top">
      {#if data.mark.kind === 'lot'}<label class="stack"
          >how much, {data.mark.unit}<input
            class="field number"
            bind:value={amount}
            inputmode="decimal"
          /></label
        >{/if}
      <label class="stack"
        >parts come to<PlaceChoice places={data.places} bind:value={place} /></label
      >
      <label class="stack"
        >document<input class="field number" bind:value={document} maxlength="60" /></label
      >
    </div>
    <WideTable of="parts">
      <table class="plain middle">
        <thead
          ><tr
            ><th scope="col">Part</th><th scope="col">Number</th><th scope="col">Quantity</th><th
              scope="col">What becomes of it</th
            ></tr
          ></thead
        >
        <tbody>
          {#each parts as part, index (index)}
            <tr class:wrong={faultOf(index) !== ''}>
              <td
                >{#if part.known}<b class="number">{part.product}</b>
                  <span class="soft">{part.name}</span>{:else}<CodeField
                    label="Product of part {index + 1}"
                    quiet
                    of="product"
                    bind:value={part.product}
                    name={part.name}
                    onchoice={(choice) => {
                      if (choice?.marking === 'none') part.kind = 'bulk';
                      else part.kind = hasSerials(choice?.marking ?? 'lot') ? 'serial' : 'lot';
                    }}
                  />{/if}{#if faultOf(index)}<br /><span class="stop small">{faultOf(index)}</span
                  >{/if}</td
              >
              <td
                >{#if part.known}<span class="number">{part.number || 'unmarked'}</span
                  >{:else if part.kind !== 'bulk'}<input
                    class="field number"
                    bind:value={part.number}
                    aria-label="Number of part {index + 1}"
                    placeholder={part.kind}
                  />{/if}</td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={part.quantity}
                  inputmode="decimal"
                  disabled={part.kind === 'serial'}
                  aria-label="Quantity of part {index + 1}"
                /> <span class="small soft">{part.unit}</span></td
              >
              <td
                ><select
                  class="field"
                  bind:value={part.fate}
                  aria-label="What becomes of part {index + 1}"
                  >{#each FATES as [value, says] (value)}<option {value}>{says}</option
                    >{/each}</select
                ></td
              >
            </tr>
          {:else}<tr
              ><td colspan="4" class="soft"
                >What went into it was not recorded. Add what comes out: new numbers are taken then.</td
              ></tr
            >{/each}
        </tbody>
      </table>
    </WideTable>
    <button
      class="act add"
      onclick={() =>
        parts.push({
          product: '',
          number: '',
          kind: 'lot',
          quantity: '1',
          fate: 'out',
          place: '',
          known: false,
          name: '',
          unit: ''
        })}>Another part</button
    >
    {#if lost.length > 0}<label class="stack mind"
        >Why {count(lost.length, 'part')}
        {lost.length === 1 ? 'is' : 'are'} lost, kept for ever<input
          class="field"
          bind:value={reason}
          maxlength="2000"
        /></label
      >{/if}
    <div class="end">
      <span class="soft"
        >{count(out.length, 'part')} out, {lost.length} lost{parts.some(
          (part) => part.fate === 'leave' && part.known
        )
          ? ` · ${parts.filter((part) => part.fate === 'leave' && part.known).length} stay accounted to the unit`
          : ''}</span
      ><button
        class="act main"
        disabled={busy ||
          !data.mayTear ||
          data.onHand === '0' ||
          (lost.length > 0 && reason.trim() === '')}
        onclick={book}
        >{busy
          ? 'Booking …'
          : `Take ${data.mark.kind === 'serial' ? data.mark.number : `${sayAmount(amount, data.mark.unit)} of ${data.mark.number}`} apart`}</button
      >
    </div>
  </div>
{/if}

<style>
  .screen {
    padding: 18px 24px 28px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 14px;
    align-content: start;
    max-width: 1040px;
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    gap: 14px 22px;
    align-items: center;
  }
  .short {
    width: 92px;
  }
  tr.wrong {
    background: var(--rust-pale);
  }
  .add {
    justify-self: start;
  }
  .end {
    display: flex;
    gap: 18px;
    justify-content: flex-end;
    align-items: center;
  }
  @media (max-width: 700px) {
    .screen {
      padding: 12px;
    }
  }
</style>
