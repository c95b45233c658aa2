<script lang="ts">
  import { certificateName } from '$lib/core/quality/certificate-name.ts';
  import SignOnGlass from '$lib/ui/ledger/SignOnGlass.svelte';
  import { goto } from '$app/navigation';
  import SignedBy from '$lib/ui/ledger/SignedBy.svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import ReverseDialog from '$lib/ui/ledger/ReverseDialog.svelte';
  import EventCosts from '$lib/ui/stock/EventCosts.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { ORDER_SCREEN } from '$lib/ui/orders/order-screen.ts';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const event = $derived(data.event);
  let reversing = $state(false);
  let refused = $state.raw<string[]>([]);
  /** Issues a certificate for everything in the shipment, and opens it. */
  async function certify(): Promise<void> {
    const reply = await send<{ number: number }>('POST', '/api/v1/certificates', {
      event: event.id
    });
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    await refresh();
    window.open(`/api/v1/certificates/${reply.body.number}`, '_blank', 'noopener');
  }
</script>

<svelte:head><title>{event.document} · Earmark</title></svelte:head>
<div class="screen">
  <h1>
    {event.kind} <span class="number">{event.paper}</span>{#if event.partner}&nbsp;· {event.partner}{/if}
  </h1>
  <dl>
    <div>
      <dt>happened</dt>
      <dd>{sayInstant(event.at)}</dd>
    </div>
    <div>
      <dt>booked</dt>
      <dd>{sayInstant(event.bookedAt)}</dd>
    </div>
    <div>
      <dt>by</dt>
      <dd>
        {event.who}{#if event.token}<span class="soft"
            >, through the token {event.token.name}{event.token.madeBy
              ? ` that ${event.token.madeBy} made`
              : ''}</span
          >{/if}
      </dd>
    </div>
    {#if event.reference}<div>
        <dt>their paper</dt>
        <dd class="number">{event.reference}</dd>
      </div>{/if}
    {#if event.order}<div>
        <dt>order</dt>
        <dd>
          <a
            class="number"
            href="{ORDER_SCREEN[event.order.kind as keyof typeof ORDER_SCREEN]}/{encodeURIComponent(
              event.order.number
            )}">{event.order.number}</a
          >
        </dd>
      </div>{/if}
    {#if event.plans.length > 0}<div>
        <dt>decided by</dt>
        <dd>
          {#each event.plans as plan, index (plan.product)}{index > 0 ? ', ' : ''}<a
              href="/setup/plans?plan={encodeURIComponent(plan.plan)}&version={plan.version}"
              title="{plan.product}: {plan.name}"
              ><span class="number">{plan.plan}</span> version {plan.version}</a
            >{/each}
        </dd>
      </div>{/if}
    <div>
      <dt>event</dt>
      <dd>
        <span class="number">{event.id}</span>{#if data.mayProve},
          <a
            href="/api/v1/ledger/proof?event={event.id}"
            download="proof-of-event-{event.id}.json"
            title="A file that shows this event is as it was sealed; anybody can check it">proof</a
          >{/if}
      </dd>
    </div>
  </dl>
  {#if event.step}<p class="taken">
      <b class="number">{event.step.unit}</b> of {event.step.product}: {event.step.state} at {event
        .step.station}.
    </p>{/if}
  {#if event.reverses}<p class="taken">
      This takes back the {event.reverses.kind}
      <a class="number" href="/events/{event.reverses.id}">{event.reverses.document}</a>, event {event
        .reverses.id}.
    </p>{/if}
  {#if event.reversedBy.length > 0}<p class="taken">
      {event.openCount === 0 ? 'Taken back' : 'Taken back in part'} by {#each event.reversedBy as id, index (id)}{index >
        0
          ? ' and '
          : ''}<a class="number" href="/events/{id}">event {id}</a>{/each}.
    </p>{/if}
  {#if event.reason}<p class="mind">“{event.reason}”</p>{/if}
  <SignedBy signatures={data.signatures} />
  {#if event.remarks.length > 0}
    <section class="mind remarks">
      <h2>Gone on in spite of</h2>
      {#each event.remarks as remark, index (index)}<p>
          {remark.message}
          {#if remark.reason}<b>“{remark.reason}”</b>{/if}
          {#if remark.approvedBy}<span class="approved">approved by {remark.approvedBy}</span>{/if}
        </p>{/each}
    </section>
  {/if}
  {#if event.kind === 'ship'}<div class="acts">
      <a
        class="act main"
        href="/api/v1/events/{event.id}/delivery-note"
        target="_blank"
        rel="noopener">Delivery note</a
      ><a class="act" href="/api/v1/events/{event.id}/epcis" target="_blank" rel="noopener"
        >Shipment notice</a
      >
    </div>{/if}
  <SignOnGlass event={event.id} signed={data.signed} maySign={data.maySign} />
  {#each event.fittings as one, index (index)}<p class="taken">
      <a class="number" href="/marks/{one.part}">{one.product} {one.number ?? ''}</a>
      {one.number === null ? `(${sayQuantity(one.quantity)})` : ''}
      {one.put ? 'went into' : 'came out of'}
      <a class="number" href="/marks/{one.host}">{one.hostProduct} {one.hostNumber}</a>{one.position
        ? `, ${one.position}`
        : ''}.
    </p>{/each}
  {#if event.kind === 'pack' || event.kind === 'unpack'}<p class="taken">
      {event.kind === 'pack' ? 'Packed' : 'Taken out'}: {#each event.packings as one, index (index)}{index >
        0
          ? ', '
          : ''}<b class="number">{one.number ?? one.child ?? one.product}</b>{one.child
          ? ''
          : ` (${sayQuantity(one.quantity)})`}
        {event.kind === 'pack' ? 'into' : 'from'}
        <a class="number" href="/units/{one.unit}">{one.unit}</a>{/each}.
    </p>{/if}
  {#if event.kind === 'receive' || event.lines.some((line) => line.kind !== 'bulk' && line.quantity && !line.quantity.startsWith('-'))}
    <div class="acts">
      {#if event.kind === 'receive'}<a
          class="act"
          href="/api/v1/events/{event.id}/goods-received-note"
          target="_blank"
          rel="noopener">Goods received note</a
        ><a class="act" href="/put-away?event={event.id}">Put away</a>{/if}<a
        class="act"
        href="/labels?event={event.id}">Labels</a
      >
    </div>
  {/if}
  {#if data.mayRevalue}<div class="acts">
      <a class="act" href="/value/revalue?event={event.id}">What it costs …</a>
    </div>{/if}
  {#if data.mayCertify || data.certificates.length > 0}<div class="acts">
      {#if data.mayCertify}<button class="act" onclick={certify}>Certificate of analysis</button
        >{/if}{#each data.certificates as one (one.number)}<a
          class="act quiet"
          href="/api/v1/certificates/{one.number}"
          target="_blank"
          rel="noopener">{certificateName(one.number)}</a
        >{#if data.mayProve}<a
            class="act quiet"
            href="/api/v1/ledger/proof?certificate={one.number}"
            aria-label="Proof of {certificateName(one.number)}">its proof</a
          >{/if}{/each}
    </div>{/if}
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if data.mayReverse}<button class="act danger back" onclick={() => (reversing = true)}
      >Take it back …</button
    >{/if}
  <WideTable of="what it moved">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Mark</th><th scope="col">Product</th><th scope="col">Place</th><th
            scope="col"
            class="right">Quantity</th
          ></tr
        ></thead
      >
      <tbody>
        {#each event.lines as line, index (index)}
          <tr>
            <td
              ><Tag
                kind={line.kind}
                number={line.number}
                under={line.kind === 'bulk' ? 'kept by quantity' : line.kind}
                state={line.state}
                href="/marks/{line.mark}"
              /></td
            >
            <td><b class="number">{line.product}</b> {line.name}</td>
            <td class="number">{line.place ?? ''}</td>
            <td class="right"
              >{#if line.quantity}<b class="number" class:good={!line.quantity.startsWith('-')}
                  >{line.quantity.startsWith('-') ? '' : '+'}{sayQuantity(line.quantity)}</b
                > <span class="small soft">{line.unit}</span>{:else}<span class="stop"
                  >{line.change}</span
                >{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  </WideTable>
  {#if data.costs && data.costs.total > 0}<EventCosts
      rows={data.costs.rows}
      total={data.costs.total}
    />{/if}
  {#if event.lineCount > event.lines.length}<p class="soft">
      and {count(event.lineCount - event.lines.length, 'more line')}; the API’s trace and stock give
      every one.
    </p>{/if}
</div>
{#if reversing}<ReverseDialog
    {event}
    onclose={() => (reversing = false)}
    ondone={(id) => {
      reversing = false;
      void goto(`/events/${id}`);
    }}
  />{/if}

<style>
  .screen {
    padding: 20px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
    align-content: start;
  }
  dl {
    display: flex;
    flex-wrap: wrap;
    gap: 6px 34px;
    padding-bottom: 12px;
    border-bottom: 1px solid var(--line);
  }
  dt {
    font-size: 13px;
    color: var(--ink-soft);
  }
  dd {
    font-weight: 600;
  }
  .approved {
    color: var(--sea);
  }
  .remarks {
    display: grid;
    gap: 6px;
  }
  .acts {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
  }
  .taken {
    padding: 8px 14px;
    background: var(--slate-pale);
  }
  .back {
    justify-self: start;
  }
</style>
