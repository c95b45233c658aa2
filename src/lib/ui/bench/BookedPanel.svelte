<!-- After a booking: what was booked, what it made, and the next likely act. -->
<script lang="ts">
  import Tag from '../stock/Tag.svelte';
  import { count, sayAmount } from '../parts/say.ts';
  import type { Booked } from './booking-sheet.svelte.ts';

  interface Props {
    booked: Booked;
    verb: string;
    next: { href: string; says: string } | null;
    onagain: (() => void) | null;
    /** What doing it again is called. */
    says?: string;
    /** A receipt: its note can be printed and its goods put away. */
    receipt?: boolean;
    /** A shipment: its papers can be printed. */
    shipment?: boolean;
    /** Announced numbers that did not come. */
    missing?: readonly string[];
  }
  let {
    booked,
    verb,
    next,
    onagain,
    says = 'More on this order',
    receipt = false,
    shipment = false,
    missing = []
  }: Props = $props();
  let heading: HTMLHeadingElement;
  $effect(() => heading.focus());
  const MOST = 24;
</script>

<div class="booked">
  <h1 bind:this={heading} tabindex="-1">
    <span class="good" aria-hidden="true">✓</span>
    {verb} <span class="number">{booked.event.document}</span>
  </h1>
  <p class="soft">
    {count(booked.marks.length, 'mark')} in the ledger, as event
    <a class="number" href="/events/{booked.event.id}">{booked.event.id}</a>.
  </p>
  {#if missing.length > 0}<p class="mind missing">
      <b>Announced, but not here:</b>
      <span class="number">{missing.slice(0, 12).join(', ')}</span>{missing.length > 12
        ? ` and ${missing.length - 12} more`
        : ''}. They stay on the order.
    </p>{/if}
  <div class="acts">
    {#if !shipment && booked.marks.some((mark) => mark.kind !== 'bulk')}<a
        class="act main"
        href="/labels?event={booked.event.id}">Print labels</a
      >{/if}
    {#if shipment}<a
        class="act main"
        href="/api/v1/events/{booked.event.id}/delivery-note"
        target="_blank"
        rel="noopener">Delivery note</a
      ><a class="act" href="/api/v1/events/{booked.event.id}/epcis" target="_blank" rel="noopener"
        >Shipment notice</a
      >{/if}
    {#if receipt}<a class="act" href="/put-away?event={booked.event.id}">Put away</a><a
        class="act"
        href="/api/v1/events/{booked.event.id}/goods-received-note"
        target="_blank"
        rel="noopener">Goods received note</a
      >{/if}
    {#if next}<a class="act" href={next.href}>{next.says}</a>{/if}
    {#if onagain}<button class="act" onclick={onagain}>{says}</button>{/if}
    {#if booked.marks[0]}<a class="act" href="/trace/{booked.marks[0].id}"
        >Trace {booked.marks[0].number ?? booked.marks[0].product}</a
      >{/if}
  </div>
  <div class="tags">
    {#each booked.marks.slice(0, MOST) as mark (mark.id)}<Tag
        kind={mark.kind}
        number={mark.number}
        under="{mark.product} · {sayAmount(mark.onHand, mark.unit ?? '')} on hand"
        state={mark.state}
        href="/marks/{mark.id}"
      />{/each}
  </div>
  {#if booked.marks.length > MOST}<p class="soft">
      and {count(booked.marks.length - MOST, 'more', 'more')}, all on the
      <a href="/events/{booked.event.id}">event’s page</a>.
    </p>{/if}
</div>

<style>
  .booked {
    padding: 28px 24px;
    display: grid;
    gap: 14px;
    align-content: start;
  }
  h1 {
    outline: none;
  }
  .missing {
    overflow-wrap: anywhere;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
  }
  .tags {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
    gap: 10px;
    margin-top: 6px;
  }
</style>
