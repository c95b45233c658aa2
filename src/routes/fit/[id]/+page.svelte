<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import type { Marking } from '$lib/core/catalogue/marking.ts';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import { untrack } from 'svelte';
  import { hasSerials } from '$lib/core/catalogue/plan.ts';
  import { send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import BookedPanel from '$lib/ui/bench/BookedPanel.svelte';
  import type { Fault } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import GoOn from '$lib/ui/bench/GoOn.svelte';
  import { GoingOn } from '$lib/ui/bench/going-on.svelte.ts';
  import type { Booked } from '$lib/ui/bench/booking-sheet.svelte.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import UnitHead from '$lib/ui/making/UnitHead.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { sayAmount } from '$lib/ui/parts/say.ts';
  import {
    comesOut,
    FATES,
    fittingOf,
    pathOfNew,
    pathsOf,
    saidAt,
    sayWork,
    type MarkKind,
    type NewPart,
    type PartRow
  } from '$lib/ui/making/fitting-rows.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const home = untrack(() => data.lies ?? data.places[0]?.code ?? '');
  let rows = $state(
    untrack(() =>
      data.parts.map((line): PartRow => ({
        product: line.product,
        kind: line.mark!.kind,
        number: line.mark!.number,
        position: line.position,
        quantity: line.quantity,
        unit: line.mark?.unit ?? '',
        fate: 'stays',
        to: home,
        instead: ''
      }))
    )
  );
  let fresh = $state<NewPart[]>([]);
  let place = $state(home);
  let document = $state(
    untrack(() => data.job ?? `FIT-${data.today.slice(2).replaceAll('-', '')}-${data.mark.id}`)
  );
  const job = untrack(() => data.job && encodeURIComponent(data.job));
  let reason = $state('');
  let faults = $state.raw<readonly Fault[]>([]);
  const going = new GoingOn();
  let booked = $state.raw<Booked | null>(null);
  const unsaved = askUnlessKept(() => [rows, fresh, place, reason]);
  let busy = $state(false);
  let key = newKey();
  const nothing = $derived(rows.every((row) => !comesOut(row)) && fresh.length === 0);
  const next = $derived.by(() => {
    if (nothing) return 'Say what comes out, or add what goes in.';
    return reason.trim() === '' ? 'Say why.' : '';
  });
  const doing = $derived.by(() => {
    if (busy) return 'Booking …';
    return nothing ? 'Swap parts' : sayWork(rows, fresh);
  });
  const elsewhere = $derived(
    faults.filter(({ path }) => !/^units\[0\]\.(fit|remove)\[/.test(path))
  );

  const kindOf = (marking: Marking): MarkKind => {
    if (marking === 'none') return 'bulk';
    return hasSerials(marking) ? 'serial' : 'lot';
  };
  async function book(): Promise<void> {
    busy = true;
    const { remove, fit } = fittingOf(rows, fresh);
    const unit = {
      ...{ product: data.mark.product, serial: data.mark.number },
      ...(remove.length > 0 ? { remove } : {}),
      ...(fit.length > 0 ? { fit } : {})
    };
    const reply = await send<Booked>(
      'POST',
      job ? `/api/v1/service-jobs/${job}/fittings` : '/api/v1/fittings',
      { document, place, reason, units: [unit], ...going.given },
      { 'idempotency-key': key }
    );
    busy = false;
    if (reply.ok) {
      booked = reply.body;
      unsaved.kept();
      key = newKey();
      return;
    }
    const { errors, title } = reply.refusal;
    faults = errors.length > 0 ? (errors as Fault[]) : [{ code: '', path: '', message: title }];
  }
</script>

<svelte:head><title>Parts of {data.mark.number} · Earmark</title></svelte:head>
{#if booked}
  <BookedPanel
    {booked}
    verb="Booked on"
    next={job
      ? { href: `/service/${job}`, says: `On with ${data.job}` }
      : { href: `/marks/${data.mark.id}/as-built?as=is`, says: `What is in ${data.mark.number}` }}
    onagain={null}
  />
{:else}
  <div class="screen">
    <UnitHead mark={data.mark} title="Swap its parts"
      >A part that comes out stays itself, with its own history. One that goes in belongs to this
      unit from now on.</UnitHead
    >
    {#if data.lies === null}<p class="refused">
        {data.mark.number} is not on hand, so nothing goes into it here. Take it in first.
      </p>{/if}
    {#each elsewhere as fault, index (index)}<p class="refused" role="alert">
        {fault.message}
      </p>{/each}
    <GoOn {document} {faults} {going} again={book} />
    <WideTable of="parts">
      <table class="plain middle">
        <thead
          ><tr
            ><th scope="col">In it now</th><th scope="col">Position</th><th scope="col"
              >What becomes of it</th
            ><th scope="col">Goes to</th><th scope="col">In its place</th></tr
          ></thead
        >
        <tbody>
          {#each rows as row, index (index)}
            {@const said = saidAt(faults, pathsOf(rows, index))}
            <tr class:wrong={said !== ''} class:out={comesOut(row)}>
              <td
                ><Tag
                  kind={row.kind}
                  number={row.number}
                  under="{row.product} · {sayAmount(row.quantity, row.unit)}"
                />{#if said}<p class="stop small" role="alert">{said}</p>{/if}</td
              >
              <td
                ><input
                  class="field short"
                  bind:value={row.position}
                  maxlength="60"
                  aria-label="Position of {row.number ?? row.product}"
                /></td
              >
              <td
                ><select
                  class="field"
                  bind:value={row.fate}
                  aria-label="What becomes of {row.number ?? row.product}"
                  >{#each FATES as [value, says] (value)}<option {value}>{says}</option
                    >{/each}</select
                ></td
              >
              <td
                >{#if comesOut(row)}<PlaceChoice
                    places={data.places}
                    bind:value={row.to}
                    label="Where {row.number ?? row.product} goes"
                  />{/if}</td
              >
              <td
                >{#if comesOut(row) && row.kind !== 'bulk'}<input
                    class="field number"
                    bind:value={row.instead}
                    placeholder={row.kind === 'serial' ? 'scan its serial' : 'scan its lot'}
                    aria-label="What goes in for {row.number ?? row.product}"
                  />{/if}</td
              >
            </tr>
          {:else}<tr><td colspan="5" class="soft">Nothing is recorded as being in it.</td></tr
            >{/each}
          {#each fresh as part, index (index)}
            {@const said = saidAt(faults, [pathOfNew(rows, index)])}
            <tr class="in" class:wrong={said !== ''}>
              <td
                ><CodeField
                  label="Product of new part {index + 1}"
                  quiet
                  of="product"
                  bind:value={part.product}
                  onchoice={(choice) => (part.kind = kindOf(choice?.marking ?? 'lot'))}
                />{#if said}<p class="stop small" role="alert">{said}</p>{/if}</td
              >
              <td
                ><input
                  class="field short"
                  bind:value={part.position}
                  maxlength="60"
                  aria-label="Position of new part {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={part.quantity}
                  disabled={part.kind === 'serial'}
                  inputmode="decimal"
                  aria-label="Quantity of new part {index + 1}"
                /></td
              >
              <td
                ><button class="act quiet" onclick={() => fresh.splice(index, 1)}
                  >Leave it out</button
                ></td
              >
              <td
                >{#if part.kind !== 'bulk'}<input
                    class="field number"
                    bind:value={part.number}
                    placeholder={part.kind === 'serial' ? 'scan its serial' : 'scan its lot'}
                    aria-label="Number of new part {index + 1}"
                  />{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </WideTable>
    <button
      class="act add"
      onclick={() =>
        fresh.push({ product: '', kind: 'serial', number: '', quantity: '1', position: '' })}
      >Another part goes in</button
    >
    <div class="top">
      <label class="stack"
        >parts are taken from<PlaceChoice places={data.places} bind:value={place} /></label
      >
      <label class="stack"
        >document<input class="field number" bind:value={document} maxlength="60" /></label
      >
      <label class="stack why"
        >Why, kept for ever<input class="field" bind:value={reason} maxlength="2000" /></label
      >
    </div>
    <div class="end">
      <span class="soft">{next}</span><button
        class="act main"
        disabled={busy || nothing || !data.mayFit || data.lies === null || reason.trim() === ''}
        onclick={book}>{doing}</button
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
  }
  .top {
    display: flex;
    flex-wrap: wrap;
    gap: 14px 22px;
    align-items: center;
  }
  .why {
    flex: 1;
    min-width: 240px;
  }
  .short {
    width: 110px;
  }
  tr.out {
    background: var(--amber);
  }
  tr.in {
    background: var(--sea-pale);
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
  @media (max-width: 800px) {
    .screen {
      padding: 12px;
    }
  }
</style>
