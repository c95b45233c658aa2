<script lang="ts">
  import { untrack } from 'svelte';
  import { page } from '$app/state';
  import { certificateName } from '$lib/core/quality/certificate-name.ts';
  import { isOver } from '$lib/core/service/job-state.ts';
  import { transferOfWay } from '$lib/core/stock/way.ts';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Modal, TextArea, TextInput } from 'carbon-components-svelte';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { sayFact } from '$lib/core/catalogue/facts.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import AmendDialog from '$lib/ui/stock/AmendDialog.svelte';
  import MarkTests from '$lib/ui/quality/MarkTests.svelte';
  import MarkCosts from '$lib/ui/stock/MarkCosts.svelte';
  import { notBegunAs } from '$lib/ui/stock/not-begun.ts';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { sayChange } from '$lib/ui/stock/say-change.ts';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayAmount, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import Working from '$lib/ui/parts/Working.svelte';

  let { data } = $props();
  /** How it came where nobody sent it. */
  const FOUND = 'Nobody sent it and nothing made it: it was found, and booked on';
  const CAME: Record<string, string | undefined> = {
    opening: 'It lay here before Earmark; it was brought in as opening stock on',
    gain: FOUND,
    count: FOUND,
    intake: 'It was never ours; it came in for service on'
  };
  const mark = $derived(data.mark);
  const name = $derived(mark.kind === 'bulk' ? `${mark.product}, unmarked` : mark.number!);
  const openJob = $derived(data.jobs.find((job) => !isOver(job.state)));
  const expired = $derived(mark.expires !== null && mark.expires < data.today);
  const standing = $derived(mark.state !== 'usable' ? mark.state : (mark.lot?.state ?? 'usable'));

  let refusedCertificate = $state.raw<string[]>([]);
  /** Issues a certificate and opens it. */
  async function certify(): Promise<void> {
    const reply = await send<{ number: number }>('POST', '/api/v1/certificates', {
      marks: [mark.id]
    });
    refusedCertificate = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    await refresh();
    window.open(`/api/v1/certificates/${reply.body.number}`, '_blank', 'noopener');
  }
  type Act = 'hold' | 'release' | 'reject' | 'scrap';
  let asking = $state<Act | null>(null);
  let amending = $state(false);
  let reason = $state('');
  let document = $state('');
  let amount = $state('');
  let place = $state('');
  let refused = $state('');
  let key = '';
  const WORDS: Record<Act, { heading: string; button: string; danger: boolean }> = {
    hold: { heading: 'Hold', button: 'Hold', danger: false },
    release: { heading: 'Release', button: 'Release', danger: false },
    reject: { heading: 'Reject', button: 'Reject', danger: true },
    scrap: { heading: 'Scrap', button: 'Scrap', danger: true }
  };

  /** Of a lot that has serials its serials are scrapped. */
  const mayScrap = $derived(
    data.mayCorrect &&
      mark.onHand !== '0' &&
      data.places.length > 0 &&
      (mark.kind !== 'lot' || data.memberCount === 0)
  );

  function ask(act: Act): void {
    asking = act;
    reason = '';
    refused = '';
    amount = mark.kind === 'serial' ? '1' : '';
    place = data.places[0]?.code ?? '';
    document = `${act[0]!.toUpperCase()}-${data.today.slice(2).replaceAll('-', '')}-${mark.id}`;
    key = newKey();
  }

  /** Somebody came here to do one of these, which is asked at once where it may be done. */
  $effect(() => {
    void page.url;
    const wanted = new URLSearchParams(location.search).get('do');
    if (!wanted) return;
    // Begun once; asked for again, it begins again.
    history.replaceState(history.state, '', location.pathname);
    untrack(() => begin(wanted));
  });
  /** Why what somebody came for is not asked. */
  let notBegun = $state('');
  function begin(wanted: string): void {
    const decides = data.mayDecide && mark.kind !== 'bulk';
    if (wanted === 'hold' && decides && mark.state !== 'held') ask('hold');
    if (wanted === 'release' && decides && mark.state === 'held') ask('release');
    if (wanted === 'scrap' && mayScrap) ask('scrap');
    if (wanted === 'amend' && data.mayAmend && mark.kind !== 'bulk') amending = true;
    notBegun = asking || amending ? '' : notBegunAs(wanted, mark.state);
  }

  async function decide(): Promise<void> {
    const named =
      mark.kind === 'serial'
        ? { serial: mark.number! }
        : mark.kind === 'lot'
          ? { lot: mark.number! }
          : {};
    const reply =
      asking === 'scrap'
        ? await send(
            'POST',
            '/api/v1/corrections',
            {
              document,
              kind: 'scrap',
              reason,
              lines: [{ product: mark.product, place, quantity: amount, ...named }]
            },
            { 'idempotency-key': key }
          )
        : await send(
            'POST',
            '/api/v1/quality-decisions',
            { document, kind: asking, reason, marks: [{ product: mark.product, ...named }] },
            { 'idempotency-key': key }
          );
    if (!reply.ok) {
      refused = messagesOf(reply.refusal).join(' ');
      return;
    }
    asking = null;
    await refresh();
  }
</script>

<svelte:head><title>{name} · Earmark</title></svelte:head>
<Working>
  {#snippet sheet()}
    <div class="head">
      <Tag
        kind={mark.kind}
        number={mark.kind === 'bulk' ? mark.product : mark.number}
        under="{mark.product} {mark.name}"
        state={standing}
        expired={expired ? `expired ${sayDistance(mark.expires!, data.today)}` : undefined}
        large
      />
      <div class="acts">
        <a class="act main" href="/trace/{mark.id}?direction=upstream">◂ Where from</a>
        <a class="act main" href="/trace/{mark.id}?direction=downstream">Where to ▸</a>
        {#if data.mayRecall}<a class="act" href="/recall/new?mark={mark.id}">Recall …</a>{/if}
        {#if data.unnumbered && data.mayIdentify}<a
            class="act"
            href="/identify?product={encodeURIComponent(mark.product)}">Give numbers</a
          >{/if}
        {#if (data.madeFrom.length > 0 || data.made) && mark.kind !== 'bulk'}<a
            class="act"
            href="/marks/{mark.id}/as-built">As built</a
          >{/if}
        {#if mark.kind !== 'bulk'}<a class="act" href="/labels?mark={mark.id}">Label</a>{/if}
        {#if data.mayAmend && mark.kind !== 'bulk'}<button
            class="act"
            onclick={() => (amending = true)}>Amend …</button
          >{/if}
        {#if data.mayDecide && mark.kind !== 'bulk'}
          {#if mark.state === 'usable'}<button class="act" onclick={() => ask('hold')}
              >Hold …</button
            >{/if}
          {#if mark.state === 'held'}<button class="act" onclick={() => ask('release')}
              >Release …</button
            ><button class="act danger" onclick={() => ask('reject')}>Reject …</button>{/if}
          {#if mark.state === 'rejected'}<button class="act" onclick={() => ask('hold')}
              >Hold again …</button
            >{/if}
        {/if}
        {#if data.mayRepack && mark.onHand !== '0'}{#if mark.kind !== 'bulk' && data.memberCount === 0}<a
              class="act"
              href="/repack?marks={mark.id}">Repack …</a
            >{/if}{#if mark.kind === 'serial' && (data.madeFrom.length > 0 || data.made)}<a
              class="act"
              href="/fit/{mark.id}">Swap parts …</a
            >{/if}{#if data.madeFrom.length > 0 && mark.kind !== 'bulk'}<a
              class="act"
              href="/teardown/{mark.id}">Take apart …</a
            >{/if}{/if}
        {#if openJob}<a class="act" href="/service/{encodeURIComponent(openJob.number)}"
            >In service: {openJob.number}</a
          >{:else if data.mayServe && mark.kind === 'serial' && (data.sales.length > 0 || data.jobs.length > 0)}<a
            class="act"
            href="/service/new?serial={encodeURIComponent(mark.number ?? '')}">Service …</a
          >{/if}
        {#if mayScrap}<button class="act danger" onclick={() => ask('scrap')}>Scrap …</button>{/if}
      </div>
    </div>
    {#if notBegun}<p class="mind" role="alert">{notBegun}</p>{/if}
    <div class="two">
      <section>
        <h2>
          {mark.kind === 'serial' ? 'In it now' : 'Made from'}
          <span>{data.madeFrom.length || ''}</span>
        </h2>
        <ul>
          {#each data.madeFrom as one (one.id)}<li>
              <Tag
                kind={one.kind}
                number={one.number}
                under="{one.product} {one.name}"
                state={one.state}
                href="/marks/{one.id}"
              /><span class="right"
                ><b class="number">{sayQuantity(one.quantity)}</b>
                <span class="small soft">{one.unit}</span></span
              >
            </li>
          {:else}<li class="none">
              {#if data.cameFrom}{CAME[data.cameFrom.kind] ??
                  `Not made here: received from ${data.cameFrom.partner ?? 'a supplier'} on`}
                <a class="number" href="/events/{data.cameFrom.event}">{data.cameFrom.document}</a
                >.{:else if data.memberCount > 0}Its serials know what they were made from.{:else}Nothing
                is in it: it was taken apart, or built without named components.{/if}
            </li>{/each}
        </ul>
      </section>
      <section>
        <h2>Went into <span>{data.wentIntoCount || ''}</span></h2>
        <ul>
          {#each data.wentInto.slice(0, 60) as one (`${one.id} ${one.event}`)}<li>
              <Tag
                kind={one.kind}
                number={one.number}
                under="{one.product} {one.name}"
                state={one.state}
                href="/marks/{one.id}"
              /><a class="number small" href="/events/{one.event}">{one.document}</a>
            </li>
          {:else}<li class="none">Nothing has been made from it.</li>{/each}
        </ul>
        {#if data.wentIntoCount > 60}<p class="small soft">
            and {data.wentIntoCount - 60} more:
            <a href="/trace/{mark.id}?direction=downstream&view=table">all of them</a>
          </p>{/if}
      </section>
    </div>
    {#if data.sales.length > 0}
      <section class="wide sales">
        <h2>Sold <span>{data.sales.length}</span></h2>
        <ul>
          {#each data.sales.slice(0, 12) as sale (sale.event)}
            <li>
              <span
                >{#if sale.quantity === '0'}<s>{sale.partner}</s> <b>came back</b>{:else}<b
                    >{sale.partner}</b
                  >
                  {mark.kind === 'serial'
                    ? 'has it'
                    : `has ${sayQuantity(sale.quantity)} ${mark.unit}`}{/if}</span
              >
              <span class="small"
                >since {sayDay(sale.day)} on
                <a class="number" href="/events/{sale.event}">{sale.document}</a>{#if sale.sscc}, in
                  carton <a class="number" href="/units/{sale.sscc}">…{sale.sscc.slice(-6)}</a
                  >{/if}</span
              >
              <span class="small"
                >{#if sale.warrantyUntil}<span class:stop={sale.warrantyUntil < data.today}
                    >{sale.warrantyUntil < data.today ? 'warranty ended' : 'warranty until'}
                    {sayDay(sale.warrantyUntil)}</span
                  >{/if}</span
              >
              <span class="acts"
                ><a
                  class="act quiet"
                  href="/api/v1/events/{sale.event}/delivery-note"
                  target="_blank"
                  rel="noopener">Delivery note</a
                >{#if data.mayReturn && sale.quantity !== '0' && (mark.kind === 'serial' || data.memberCount === 0)}<a
                    class="act quiet"
                    href="/returns?mark={mark.id}">Take back …</a
                  >{/if}</span
              >
            </li>
          {/each}
        </ul>
        {#if data.sales.length > 12}<p class="small soft">
            and {data.sales.length - 12} more:
            <a href="/trace/{mark.id}?direction=downstream&view=table">all of them</a>
          </p>{/if}
      </section>
    {/if}
    {#if data.quality.asked.length > 0}
      <section class="wide">
        <MarkTests {mark} quality={data.quality} mayTest={data.mayTest}>
          {#snippet acts()}
            {#if data.mayCertify && data.quality.tests.length > 0}<button
                class="act"
                onclick={certify}>Certificate of analysis</button
              >{/if}
            <a class="act quiet" href="/quality/products/{encodeURIComponent(mark.product)}"
              >Spec and chart</a
            >
          {/snippet}
        </MarkTests>
        {#each refusedCertificate as message, index (index)}<p class="stop small" role="alert">
            {message}
          </p>{/each}
        {#if data.certificates.length > 0}<p class="small">
            Issued: {#each data.certificates as one, index (one.number)}{index > 0 ? ', ' : ''}<a
                href="/api/v1/certificates/{one.number}"
                target="_blank"
                rel="noopener">{certificateName(one.number)}</a
              >{#if data.mayProve}
                (<a
                  href="/api/v1/ledger/proof?certificate={one.number}"
                  aria-label="Proof of {certificateName(one.number)}">proof</a
                >){/if}{/each}
          </p>{/if}
      </section>
    {/if}
    {#if data.memberCount > 0}
      <section class="wide">
        <h2>Serials within this lot <span>{data.memberCount}</span></h2>
        <div class="members">
          {#each data.members.slice(0, 60) as one (one.id)}<Tag
              kind={one.kind}
              number={one.number}
              under={one.quantity === '0' ? 'gone on' : 'on hand'}
              state={one.state}
              href="/marks/{one.id}"
            />{/each}
        </div>
        {#if data.memberCount > 60}<p class="small soft">
            and {data.memberCount - 60} more:
            <a href="/trace/{mark.id}?direction=downstream&view=table">all of them</a>
          </p>{/if}
      </section>
    {/if}
    <section class="wide">
      <h2>Every transaction, latest first <span>{data.timeline.length}</span></h2>
      <ol class="line">
        {#each data.timeline as row (row.event)}
          <li class={row.kind}>
            <span class="dot" aria-hidden="true"></span>
            <span class="when small soft">{sayInstant(row.at)}</span>
            <span
              ><a href="/events/{row.event}"
                ><b>{row.kind}</b> <span class="number">{row.document}</span></a
              >{#if row.partner}
                · {row.partner}{/if}
              {#each row.changes as change, index (index)}<span
                  class="change"
                  class:calm={row.kind === 'swap' || row.kind === 'fit' || row.kind === 'remove'}
                >
                  · {sayChange(change, row.kind)}</span
                >{/each}
              {#if row.reason}<span class="reason">“{row.reason}”</span>{/if}</span
            >
            <span class="places"
              >{#each row.places as one (one.code)}<span
                  ><b class="number" class:good={!one.quantity.startsWith('-')}
                    >{one.quantity.startsWith('-') ? '' : '+'}{sayAmount(
                      one.quantity,
                      mark.unit
                    )}</b
                  > <span class="number small soft">{one.code}</span></span
                >{/each}</span
            >
            <span class="small soft who">{row.who}</span>
          </li>
        {/each}
      </ol>
    </section>
  {/snippet}
  {#snippet margin()}
    <div class="aside">
      <section>
        <h2>Where it is</h2>
        {#each data.places as one (one.code)}<p class="place">
            <span
              >{one.site}, {one.name}<br /><span class="number small soft">{one.code}</span
              >{#if one.quarantine}&nbsp;<b class="stop small">free for nothing</b
                >{:else if one.underWay}&nbsp;<a
                  class="small"
                  href="/transfer/{encodeURIComponent(transferOfWay(one.code))}">under way</a
                >{/if}</span
            ><b class="number">{sayQuantity(one.quantity)} <span class="unit">{mark.unit}</span></b>
          </p>
        {:else}<p class="soft">
            Nothing of it is on hand. <a href="/trace/{mark.id}?direction=downstream"
              >Where it went</a
            >
          </p>{/each}
      </section>
      {#if data.costs}<MarkCosts
          mark={mark.id}
          kind={mark.kind}
          costs={data.costs}
          onHand={mark.onHand}
          unit={mark.unit}
          currency={data.currency}
          mayRevalue={data.mayRevalue}
        />{/if}
      <section>
        <h2>Identity</h2>
        <dl>
          <div>
            <dt>kind</dt>
            <dd>{mark.kind === 'bulk' ? 'kept by quantity' : mark.kind}</dd>
          </div>
          <div>
            <dt>product</dt>
            <dd class="number">
              <a href="/on-hand?q={encodeURIComponent(mark.product)}">{mark.product}</a>
            </dd>
          </div>
          {#if mark.lot}<div>
              <dt>within lot</dt>
              <dd class="number"><a href="/marks/{mark.lot.id}">{mark.lot.number}</a></dd>
            </div>{/if}
          {#if mark.before.length > 0}<div>
              <dt>called before</dt>
              <dd class="number was">{mark.before.join(', ')}</dd>
            </div>{/if}
          {#if mark.supplierNumber}<div>
              <dt>their number</dt>
              <dd class="number">{mark.supplierNumber}</dd>
            </div>{/if}
          {#if mark.madeOn}<div>
              <dt>made</dt>
              <dd>{sayDay(mark.madeOn)}</dd>
            </div>{/if}
          {#if mark.expires}<div>
              <dt>expires</dt>
              <dd class:stop={expired}>
                {sayDay(mark.expires)}<br /><span class="small"
                  >{sayDistance(mark.expires, data.today)}</span
                >
              </dd>
            </div>{/if}
          {#if mark.retest}<div>
              <dt>retest</dt>
              <dd class:stop={mark.retest < data.today}>
                {sayDay(mark.retest)}<br /><span class="small"
                  >{sayDistance(mark.retest, data.today)}</span
                >
              </dd>
            </div>{/if}
          {#each Object.entries(mark.facts) as [name, fact] (name)}<div>
              <dt>{name}</dt>
              <dd>{sayFact(fact)}</dd>
            </div>{/each}
          {#if mark.warrantyMonths}<div>
              <dt>warranty</dt>
              <dd>{mark.warrantyMonths} months</dd>
            </div>{/if}
          <div>
            <dt>state</dt>
            <dd class:stop={standing !== 'usable'}>{standing}</dd>
          </div>
          <div>
            <dt>on hand</dt>
            <dd class="number">{sayAmount(mark.onHand, mark.unit)}</dd>
          </div>
          {#if mark.printed > 0}<div>
              <dt>label</dt>
              <dd>printed {mark.printed}×</dd>
            </div>{/if}
          {#if data.memberCount > 0}<div>
              <dt>serials</dt>
              <dd>{count(data.memberCount, 'serial')}</dd>
            </div>{/if}
        </dl>
      </section>
    </div>
  {/snippet}
</Working>

{#if amending}<AmendDialog
    {mark}
    today={data.today}
    onclose={() => (amending = false)}
    ondone={async () => {
      amending = false;
      await refresh();
    }}
  />{/if}
{#if asking}
  <Modal
    open
    size="sm"
    danger={WORDS[asking].danger}
    modalLabel="{WORDS[asking].heading} {name}"
    primaryButtonText="{WORDS[asking].button} {name}"
    secondaryButtonText="Leave it"
    primaryButtonDisabled={reason.trim() === '' || document.trim() === ''}
    on:submit={decide}
    on:click:button--secondary={() => (asking = null)}
    on:close={() => (asking = null)}
    selectorPrimaryFocus="#reason"
  >
    {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
    <TextArea
      id="reason"
      labelText="Reason, kept for ever"
      bind:value={reason}
      maxlength={2000}
      rows={3}
    />
    <div class="form">
      <TextInput labelText="Document" bind:value={document} maxlength={60} />
      {#if asking === 'scrap'}
        {#if mark.kind !== 'serial'}<TextInput
            labelText="Quantity, {mark.unit}"
            bind:value={amount}
            inputmode="decimal"
          />{/if}
        <label class="stack"
          >From<select class="field" bind:value={place}
            >{#each data.places.filter((one) => !one.underWay) as one (one.code)}<option
                value={one.code}>{one.name} ({one.quantity})</option
              >{/each}</select
          ></label
        >
      {/if}
    </div>
  </Modal>
{/if}

<style>
  .sales li {
    display: grid;
    grid-template-columns: minmax(0, 1.1fr) minmax(0, 1.4fr) minmax(0, 1fr) auto;
    gap: 4px 14px;
    align-items: center;
    border-bottom: 1px solid var(--line);
  }
  @media (max-width: 900px) {
    .sales li {
      grid-template-columns: 1fr;
    }
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 14px;
    justify-content: space-between;
    align-items: center;
    padding: 18px 20px;
    border-bottom: 1px solid var(--line);
    background: var(--paper);
  }
  .acts {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
  }
  .two {
    display: grid;
    grid-template-columns: 1fr 1fr;
    border-bottom: 1px solid var(--line);
  }
  .two section {
    padding: 14px 20px;
  }
  .two section + section {
    border-left: 1px solid var(--line);
  }
  .two li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 12px;
    align-items: center;
    padding: 4px 0;
  }
  .two ul {
    max-height: 262px;
    overflow: auto;
  }
  h2 {
    margin-bottom: 8px;
  }
  h2 span {
    color: var(--brass);
  }
  .none {
    color: var(--ink-soft);
    font-size: 14px;
    display: block !important;
  }
  .wide {
    padding: 14px 20px;
  }
  .wide + .wide {
    border-top: 1px solid var(--line);
  }
  .members {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
    gap: 8px;
    max-height: 300px;
    overflow: auto;
  }
  .line li {
    display: grid;
    grid-template-columns: 16px 136px minmax(0, 1fr) auto 136px;
    gap: 10px;
    align-items: baseline;
    padding: 7px 0;
    border-bottom: 1px solid #ebe5da;
  }
  .dot {
    width: 10px;
    height: 10px;
    border-radius: 50%;
    background: var(--brass);
    align-self: center;
  }
  .hold .dot,
  .reject .dot,
  .scrap .dot,
  .loss .dot {
    background: var(--rust);
  }
  .release .dot {
    background: var(--sea);
  }
  .line a {
    color: var(--ink);
    text-decoration: none;
  }
  .line a:hover {
    text-decoration: underline;
  }
  .reason {
    display: block;
    font-size: 13.5px;
    color: var(--ink-soft);
  }
  .change.calm {
    color: inherit;
  }
  .change {
    color: var(--rust);
    font-weight: 600;
  }
  .places {
    display: grid;
    justify-items: end;
  }
  .who {
    text-align: right;
  }
  .aside {
    display: grid;
    gap: 20px;
  }
  .place {
    display: flex;
    justify-content: space-between;
    gap: 8px;
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
  }
  .place b {
    white-space: nowrap;
  }
  .unit {
    font: 13px var(--sans);
    color: var(--ink-soft);
  }
  dl div {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 5px 0;
    border-bottom: 1px solid #ebe5da;
  }
  dt {
    color: var(--ink-soft);
  }
  dd {
    text-align: right;
    font-weight: 600;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  .was {
    text-decoration: line-through;
  }
  .form {
    display: grid;
    gap: 12px;
    margin-top: 12px;
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    font-weight: 600;
    padding: 10px 12px;
    margin-bottom: 12px;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: 1fr;
    }
    .two section + section {
      border-left: 0;
      border-top: 1px solid var(--line);
    }
    .line li {
      grid-template-columns: 16px minmax(0, 1fr) auto;
    }
    .when {
      grid-column: 2;
    }
    .who {
      display: none;
    }
  }
</style>
