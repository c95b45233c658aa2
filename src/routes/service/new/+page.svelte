<script lang="ts">
  import PlaceChoice from '$lib/ui/parts/PlaceChoice.svelte';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import { inTurn } from '$lib/core/in-turn.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { scanTarget } from '$lib/ui/frame/scan-target.svelte.ts';
  import { otherErrors, fieldError } from '$lib/ui/parts/refusal.ts';
  import KnownUnit from '$lib/ui/service/KnownUnit.svelte';
  import ServiceNav from '$lib/ui/service/ServiceNav.svelte';
  import {
    jobOf,
    missing,
    nextUnit,
    openJobOf,
    type FoundUnit,
    type Intake
  } from '$lib/ui/service/taking-in.ts';
  import { linesOfScan } from '$lib/ui/stock/scans.ts';
  import ScanNumbers from '$lib/ui/stock/ScanNumbers.svelte';

  let { data } = $props();
  let typed = $state<Intake>(
    untrack(() => ({
      ...{ product: '', serial: '', lot: '', customer: '', fault: '', faultCode: '' },
      ...{ condition: '', accessories: '', charged: '', here: true },
      contact: { name: '', email: '', phone: '' },
      place: data.place,
      promised: data.promised
    }))
  );
  let units = $state.raw<FoundUnit[]>([]);
  let looked = $state(false);
  let refusal = $state.raw<Refusal | null>(null);
  let opened = $state.raw<string[]>([]);
  let busy = $state(false);
  let key = newKey();
  const unsaved = askUnlessKept(() => typed);
  const unit = $derived(units.find((one) => one.product === typed.product));
  /** How the product is marked that was chosen for a unit nobody knows. */
  let marking = $state<string | undefined>();
  const next = $derived(missing(typed));
  const ready = $derived(next === '' && !busy && !(unit && openJobOf(unit)));
  const loose = $derived(otherErrors(refusal, ['contact.email', 'fault']));

  const turn = inTurn();
  const scanned = (text: string): void => void turn(() => look(text));
  /** Whoever bought it brings it, unless somebody says otherwise. */
  async function look(text: string): Promise<void> {
    const [serial] = linesOfScan(text, data.today);
    if (!serial) return;
    refusal = null;
    const reply = await send<{ units: FoundUnit[] }>(
      'GET',
      `/api/v1/service-units?serial=${encodeURIComponent(serial)}`
    );
    if (!reply.ok) {
      refusal = reply.refusal;
      return;
    }
    units = reply.body.units;
    looked = true;
    const [first] = units;
    typed.serial = first?.serial ?? serial;
    typed.product = units.length === 1 ? first!.product : '';
    const buyer = first?.sales[0]?.partnerCode;
    if (typed.customer === '' && buyer) typed.customer = buyer;
    key = newKey();
  }
  async function open(another: boolean): Promise<void> {
    if (!ready) return;
    busy = true;
    const reply = await send<{ job: { number: string } }>(
      'POST',
      '/api/v1/service-jobs',
      jobOf(typed),
      { 'idempotency-key': key }
    );
    busy = false;
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    key = newKey();
    const { number } = reply.body.job;
    if (!another) {
      unsaved.kept();
      await goto(`/service/${encodeURIComponent(number)}`);
      return;
    }
    opened = [...opened, number];
    typed = nextUnit(typed);
    units = [];
    looked = false;
    unsaved.kept();
  }
  onMount(() => {
    scanTarget.current = { offer: (one) => `Take in ${one}`, take: scanned };
    if (data.serial) scanned(data.serial);
    return () => (scanTarget.current = null);
  });
</script>

<svelte:head><title>Take a unit in · Earmark</title></svelte:head>
<ServiceNav />
<div class="page narrow">
  <h1>Take a unit in</h1>
  {#if opened.length > 0}<p class="good" role="status">
      ✓ Opened {opened.join(', ')}. Scan the next unit.
    </p>{/if}
  <ScanNumbers label="scan the unit, or type its serial" onscan={scanned} />
  {#each loose as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if unit}<KnownUnit {unit} />{:else if looked}<p class="mind">
      {#if units.length > 1}<b class="number">{typed.serial}</b> is a serial of several products. Which
        is it?{:else}<b class="number">{typed.serial}</b> is no unit known here. Say which product it
        is; its mark begins with this job, as one of foreign origin.{/if}
    </p>{/if}
  {#if typed.serial !== ''}
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void open(false);
      }}
    >
      <div class="field-row">
        {#if units.length > 1}<label class="stack"
            >product<select class="field" bind:value={typed.product}
              ><option value="">–</option>{#each units as one (one.product)}<option
                  value={one.product}>{one.product} {one.name}</option
                >{/each}</select
            ></label
          >{:else if !unit}<CodeField
            label="product"
            of="product"
            bind:value={typed.product}
            onchoice={(choice) => (marking = choice?.marking)}
          />{/if}
        {#if !unit && marking === 'serial-in-lot'}<label class="stack"
            >lot it is within<input class="field number" bind:value={typed.lot} /></label
          >{/if}
        <CodeField label="who brings it" of="customer" bind:value={typed.customer} />
        <label class="stack"
          >where is it<PlaceChoice
            places={data.places}
            value={typed.here ? typed.place : ''}
            none="still to come"
            onchange={(code) => {
              typed.here = code !== '';
              if (code) typed.place = code;
            }}
          /></label
        >
        <DateField label="promised for" bind:value={typed.promised} />
        <label class="stack"
          >charged<select class="field" bind:value={typed.charged}
            ><option value="">not decided</option><option value="no">no</option><option value="yes"
              >yes</option
            ></select
          ></label
        >
      </div>
      <div class="field-row">
        <label class="stack wide"
          >what is wrong, in their words<textarea
            class="field"
            rows="2"
            maxlength="2000"
            bind:value={typed.fault}></textarea></label
        >
        {#if data.faults.length > 0}<label class="stack"
            >fault<select class="field" bind:value={typed.faultCode}
              ><option value="">not said</option>{#each data.faults as one (one.code)}<option
                  value={one.code}>{one.name}</option
                >{/each}</select
            ></label
          >{/if}
      </div>
      <div class="field-row">
        <label class="stack wide"
          >its condition<input class="field" maxlength="2000" bind:value={typed.condition} /></label
        >
        <label class="stack wide"
          >what came with it<input
            class="field"
            maxlength="2000"
            bind:value={typed.accessories}
          /></label
        >
      </div>
      <div class="field-row">
        <label class="stack wide"
          >who to speak to<input
            class="field"
            maxlength="200"
            bind:value={typed.contact.name}
          /></label
        >
        <label class="stack wide"
          >e-mail, to be told of its turns<input
            class="field"
            type="email"
            maxlength="200"
            bind:value={typed.contact.email}
          />{#if fieldError(refusal, 'contact.email')}<span class="stop small"
              >{fieldError(refusal, 'contact.email')}</span
            >{/if}</label
        >
        <label class="stack"
          >telephone<input class="field" maxlength="60" bind:value={typed.contact.phone} /></label
        >
      </div>
      <div class="field-row end">
        <span class="soft">{next}</span>
        <button type="button" class="act" disabled={!ready} onclick={() => open(true)}
          >Open, and take in another</button
        >
        <button class="act main" disabled={!ready}>{busy ? 'Opening …' : 'Open the job'}</button>
      </div>
    </form>
  {:else}<p class="soft">
      Who bought it, until when it is under warranty, its recalls and earlier jobs stand here as
      soon as it is scanned.
    </p>{/if}
</div>

<style>
  .narrow {
    max-width: 1080px;
  }
  form {
    display: grid;
    gap: 14px;
  }
  .wide {
    flex: 1;
    min-width: 220px;
  }
  .wide .field {
    width: 100%;
  }
  textarea {
    padding-top: 8px;
  }
  .end {
    justify-content: flex-end;
    align-items: center;
  }
</style>
