<!-- A recall case: five steps down the sheet, each with what it needs and what it did; in the margin what it stands at. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import SignedBy from '$lib/ui/ledger/SignedBy.svelte';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { Modal, PasswordInput, TextArea } from 'carbon-components-svelte';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { noAmount, sayAmounts } from '$lib/core/recall/amounts.ts';
  import RecallCustomers from '$lib/ui/recall/RecallCustomers.svelte';
  import EffectivenessChart from '$lib/ui/recall/EffectivenessChart.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayAmount, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import AndMore from '$lib/ui/parts/AndMore.svelte';
  import Working from '$lib/ui/parts/Working.svelte';

  /** The latest of what was done stand in the margin. */
  const LOGGED = 14;

  let { data } = $props();
  const page = $derived(data.page);
  const live = $derived(page.closedAt === null && data.mayRecall);
  let refused = $state.raw<string[]>([]);
  let done = $state('');
  let busy = $state(false);
  let signing = $state(false);
  let password = $state('');
  let closing = $state(false);
  let reason = $state('');
  let related = $state('');
  let now = $state(Date.now());
  const usable = $derived(
    new Set(page.here.filter((one) => one.standing === 'usable').map((one) => one.id)).size
  );
  const hereCount = $derived(new Set(page.here.map((one) => one.id)).size);
  const nameOf = (partner: string): string =>
    page.customers.find((other) => other.partner === partner)?.name ?? partner;
  const percent = (part: number) => Math.floor(part * 1000) / 10;
  const watch = $derived.by(() => {
    const seconds = Math.max(
      0,
      Math.floor(
        ((page.decidedAt ? Date.parse(page.decidedAt) : now) - Date.parse(page.openedAt)) / 1000
      )
    );
    return `${Math.floor(seconds / 3600)}:${String(Math.floor(seconds / 60) % 60).padStart(2, '0')}:${String(seconds % 60).padStart(2, '0')}`;
  });

  async function act(
    name: string,
    body: object | undefined,
    says: (answer: never) => string
  ): Promise<boolean> {
    if (busy) return false;
    busy = true;
    const reply = await send(
      'PUT',
      `/api/v1/recalls/${encodeURIComponent(page.number)}/${name}`,
      body ?? {},
      { 'idempotency-key': newKey() }
    );
    // Said when the page shows it: nothing moves under the finger of who reads that it is done.
    if (reply.ok) await refresh();
    busy = false;
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    done = reply.ok ? says(reply.body as never) : '';
    return reply.ok;
  }
  let more = $state('');
  let whyToo = $state('');
  /**
   * Adds suspects by their numbers; one that means several things, or nothing, is told and nothing
   * is added.
   */
  async function addSuspects(): Promise<void> {
    const found = await send<{
      marks: { id: number }[];
      open: { number: string }[];
      unknown: string[];
    }>('POST', '/api/v1/trace-roots', {
      by: 'numbers',
      numbers: more.split(/[\s,;]+/).filter(Boolean)
    });
    if (!found.ok) {
      refused = messagesOf(found.refusal);
      return;
    }
    const { marks, open, unknown } = found.body;
    if (open.length + unknown.length > 0) {
      refused = [
        ...unknown.map((one) => `There is no lot or serial ${one}. Check the number.`),
        ...open.map(
          (one) =>
            `${one.number} stands for several products. Open its own page and begin from there.`
        )
      ];
      return;
    }
    if (
      await act(
        'suspects',
        { marks: marks.map((one) => one.id), why: whyToo },
        () => `✓ ${count(marks.length, 'suspect')} added. Look at the scope again.`
      )
    ) {
      more = '';
      whyToo = '';
    }
  }
  onMount(() => {
    const timer = setInterval(() => (now = Date.now()), 1000);
    return () => clearInterval(timer);
  });
</script>

<svelte:head><title>{page.number} · Recall · Earmark</title></svelte:head>
<Working>
  {#snippet sheet()}
    <div class="case">
      <div class="head">
        <div>
          <h1><span class="number">{page.number}</span> · {page.title}</h1>
          <p class="soft small">
            {page.mock ? 'Drill' : 'Recall'}, opened {sayInstant(page.openedAt)} by {page.openedBy}{#if page.related.length > 0}&nbsp;·
              related: {#each page.related as one (one.number)}<a
                  class="number"
                  href="/recall/{one.number}">{one.number}</a
                >
              {/each}{/if}
          </p>
        </div>
        {#if page.drill}<div class="watch" class:late={page.drill.inTime === false}>
            <b class="number">{watch}</b><span class="small"
              >of {page.drill.target} min · {page.drill.found} % found · {page.drill.answered} % answered{page
                .drill.passed === null
                ? ''
                : page.drill.passed
                  ? ' · passed'
                  : ' · not passed'}</span
            >
          </div>{/if}
      </div>
      {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
      {#if done}<p class="done" role="status">{done}</p>{/if}
      {#if page.closedAt}<p class="done">
          Closed {sayInstant(page.closedAt)} by {page.closedBy}{page.closingReason
            ? `: “${page.closingReason}”`
            : '. It reconciles.'}
        </p>{/if}

      <section class="step">
        <h2><span class="no">1</span> Suspects <span>{page.suspects.length}</span></h2>
        <p class="hazard">{page.hazard}</p>
        <div class="tags">
          {#each page.suspects.slice(0, 24) as one (one.id)}<Tag
              kind={one.kind}
              number={one.number}
              under={one.product}
              state={one.standing}
              href="/marks/{one.id}"
            />{/each}
        </div>
        <AndMore shown={24} total={page.suspects.length} />
        <p class="small">
          {#each page.balances.slice(0, 6) as balance (balance.mark)}{@const mark =
              page.suspects.find((one) => one.id === balance.mark)}<span class="balance"
              ><b class="number">{mark?.number ?? mark?.product}</b>: {sayAmount(
                balance.in,
                mark?.unit ?? ''
              )} came in,
              {sayQuantity(balance.onHand)} here, {sayQuantity(balance.used)} used, {sayQuantity(
                balance.shipped
              )} shipped, {sayQuantity(balance.scrapped)} scrapped:
              <b class:good={balance.open === '0'} class:stop={balance.open !== '0'}
                >{balance.open === '0'
                  ? 'it closes'
                  : `${sayAmount(balance.open, mark?.unit ?? '')} open`}</b
              ></span
            >{/each}
        </p>
        <AndMore shown={6} total={page.balances.length} />
        <span class="acts"
          >{#if page.suspects.length === 1}<a
              class="act quiet"
              href="/trace/{page.suspects[0]!.id}?direction=downstream">See the trace</a
            >{/if}</span
        >
        {#if live}<form
            class="relate"
            onsubmit={(event) => {
              event.preventDefault();
              void addSuspects();
            }}
          >
            <label class="small"
              >suspected too <input
                class="field number wide"
                bind:value={more}
                maxlength="2000"
                placeholder="numbers"
              /></label
            ><input
              class="field"
              bind:value={whyToo}
              maxlength="1000"
              placeholder="why"
              aria-label="Why these are suspected"
            /><button class="act quiet" disabled={!more.trim()}>Add to the case</button>
          </form>{/if}
      </section>

      <section class="step">
        <h2>
          <span class="no">2</span> Scope
          <span
            >{page.decidedAt
              ? `as of ${sayInstant(page.decidedAt)}`
              : 'as it is now, not decided'}</span
          >
        </h2>
        <p>
          {count(page.reached, 'lot or serial', 'lots and serials')} hold something of the suspects:
          <b>{count(page.customers.length, 'customer')}</b>
          {page.customers.length === 1 ? 'has' : 'have'}
          {sayAmounts(page.standing.had, sayQuantity)} of it, and {count(
            hereCount,
            'lot or serial',
            'lots and serials'
          )}
          {hereCount === 1 ? 'lies' : 'lie'} here.
        </p>
        {#if page.beyondTime || page.cleared.marks + page.cleared.customers > 0}<label
            class="small beyond"
            ><input
              type="checkbox"
              checked={page.beyondTime}
              disabled={!live || busy || (page.beyondTime && page.decidedAt !== null)}
              onchange={(event) =>
                act('beyond-time', { beyond: event.currentTarget.checked }, () =>
                  page.beyondTime
                    ? '✓ Only what can have some of it.'
                    : '✓ What time cleared is taken in.'
                )}
            />
            {page.beyondTime
              ? 'Beyond time: also what was made, or left, before any of it came.'
              : `Beyond time: take in ${count(page.cleared.marks, 'lot or serial', 'lots and serials')} and ${count(page.cleared.customers, 'customer')} that time cleared, made or gone before any of it came.`}</label
          >{/if}
        {#if page.change.shipments.length > 0}<div class="mind" role="status">
            <b
              >{count(page.change.shipments.length, 'more shipment', 'more shipments')} since the scope
              was decided:</b
            >{#each page.changeRows as customer (customer.partner)}<p class="small">
                {customer.name}: {#each customer.rows as row (`${row.mark} ${row.event}`)}<a
                    class="number"
                    href="/marks/{row.mark}">{row.number ?? row.product}</a
                  >
                  on <span class="number">{row.document}</span>, {sayDay(row.day)};
                {/each}
              </p>{/each}
          </div>{/if}
        {#if page.change.here.length > 0}<p class="mind small">
            {count(page.change.here.length, 'lot or serial', 'lots and serials')} came to lie here since.
          </p>{/if}
        <SignedBy signatures={page.scopeSigned} />
        {#if live && (!page.decidedAt || page.change.shipments.length > 0 || page.change.here.length > 0)}<button
            class="act main"
            disabled={busy}
            onclick={() => act('scope', {}, () => '✓ The scope is decided and kept as it is now.')}
            >{page.decidedAt
              ? 'Take them into the scope'
              : `Decide this scope: ${count(page.customers.length, 'customer')}, ${hereCount} here`}</button
          >{/if}
      </section>

      <section class="step">
        <h2><span class="no">3</span> What lies here <span>{hereCount}</span></h2>
        {#if live && usable > 0}<button
            class="act"
            class:danger={!page.mock}
            disabled={busy}
            onclick={() =>
              act(
                'hold',
                {},
                (answer: { held: number; unnumbered: string[] }) =>
                  (page.mock
                    ? `Drill: ${answer.held} would have been held.`
                    : `✓ ${answer.held} held in one booking.`) +
                  (answer.unnumbered.length > 0
                    ? ` ${answer.unnumbered.join(', ')} without number cannot be held: set it aside by hand.`
                    : '')
              )}
            >{page.mock
              ? 'Say what would be held'
              : `Hold ${count(usable, 'lot or serial', 'lots and serials')}`}</button
          >{:else if hereCount > 0 && !page.mock}<p class="good small">
            ✓ Nothing of it can be used or shipped.
          </p>{/if}
        <div class="tags">
          {#each page.here.slice(0, 12) as one (`${one.id} ${one.place}`)}<Tag
              kind={one.kind}
              number={one.number}
              under="{sayQuantity(one.quantity)} {one.unit} · {one.place}"
              state={one.standing}
              href="/marks/{one.id}"
            />{:else}<p class="soft">Nothing of it lies here.</p>{/each}
        </div>
        {#if page.here.length > 12}<p class="small soft">
            and {page.here.length - 12} more, all in the case file
          </p>{/if}
      </section>

      <RecallCustomers {page} {live} {busy} {act} />

      <section class="step">
        <h2><span class="no">5</span> Sign off and close</h2>
        {#if page.signatures.length > 0}<p>
            Approved by {page.signatures
              .map((one) => `${one.who}, ${sayInstant(one.at)}`)
              .join(' and ')}.
          </p>{/if}
        {#if page.closedAt === null}{#if page.hindrances.length > 0}<p class="small">
              Still in the way:
            </p>
            <ul class="ways">
              {#each page.hindrances as one (one)}<li>{one}</li>{/each}
            </ul>{:else}<p class="good">✓ It reconciles.</p>{/if}
          {#if live && page.decidedAt}<div class="acts">
              {#if !page.signatures.some((one) => one.who === data.me)}<button
                  class="act"
                  onclick={() => {
                    signing = true;
                    password = '';
                    refused = [];
                  }}>Sign off …</button
                >{/if}<button
                class="act main"
                onclick={() => {
                  closing = true;
                  reason = '';
                  refused = [];
                }}>Close the case …</button
              >
            </div>{/if}
          {#if live}<form
              class="relate"
              onsubmit={(event) => {
                event.preventDefault();
                void act('related', { other: related }, () => '✓ Related.').then((good) => {
                  if (good) related = '';
                });
              }}
            >
              <label class="small"
                >related to <input
                  class="field number"
                  bind:value={related}
                  maxlength="60"
                  placeholder="RC-0001"
                /></label
              ><button class="act quiet" disabled={!related.trim()}>Name it</button>
            </form>{/if}{/if}
      </section>
    </div>
  {/snippet}
  {#snippet margin()}
    <div class="aside">
      <section class="narrow">
        <h2>Accounted for</h2>
        <p class="figure"><b>{percent(page.standing.part)} %</b></p>
        <EffectivenessChart
          customers={page.standing.customers.map((one) => ({
            name: nameOf(one.partner),
            ...one.shares
          }))}
        />
        <p class="visually-hidden">
          {page.standing.customers
            .map((one) => `${one.partner}: ${percent(one.part)} per cent`)
            .join('; ')}
        </p>
      </section>
      <section>
        <h2>What was done</h2>
        <ol class="log">
          {#each page.log.toReversed().slice(0, LOGGED) as one, index (index)}<li>
              <span class="small soft">{sayInstant(one.at)} · {one.who}</span><br />{one.says}
            </li>{/each}
        </ol>
        {#if page.log.length > LOGGED}<p class="small soft">
            and {page.log.length - LOGGED} before that, all in the case file
          </p>{/if}
      </section>
    </div>
  {/snippet}
  {#snippet tally()}
    <span class="figure"
      ><b>{page.customers.length}</b> {page.customers.length === 1 ? 'customer' : 'customers'}</span
    ><span class="figure"><b>{percent(page.standing.part)} %</b> accounted for</span><span
      class="figure"
      ><b class:stop={!noAmount(page.standing.open)}
        >{page.standing.customers.filter((one) => !noAmount(one.open)).length}</b
      > still to answer</span
    ><span class="figure"><b class:stop={usable > 0 && !page.mock}>{usable}</b> not held here</span>
    <span class="end"
      ><a class="act" href="/api/v1/recalls/{page.number}/file" target="_blank" rel="noopener"
        >Case file</a
      ><a class="act" href="/api/v1/recalls/{page.number}/file?format=xlsx">as workbook</a
      >{#if data.mayProve}<a class="act" href="/api/v1/ledger/proof?case={page.number}">proof</a
        >{/if}</span
    >
  {/snippet}
</Working>

<Modal
  bind:open={signing}
  modalLabel="Sign {page.number} off"
  primaryButtonText="Sign"
  secondaryButtonText="Leave it"
  primaryButtonDisabled={password === ''}
  on:click:button--secondary={() => (signing = false)}
  on:submit={async () => {
    if (await act('signature', { password }, () => '✓ Signed.')) signing = false;
  }}
>
  <div class="dialog-form">
    <p>
      You say that scope, holds and answers of this case are as they should be. A second person
      signs beside you.
    </p>
    <PasswordInput
      labelText="Your password again"
      bind:value={password}
      autocomplete="current-password"
    />{#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  </div>
</Modal>
<Modal
  bind:open={closing}
  modalLabel="Close {page.number}"
  primaryButtonText="Close the case"
  secondaryButtonText="Leave it open"
  on:click:button--secondary={() => (closing = false)}
  on:submit={async () => {
    if (await act('closing', reason.trim() ? { reason } : {}, () => '✓ Closed.')) closing = false;
  }}
>
  <div class="dialog-form">
    {#if page.hindrances.length > 0}<p>
        It does not reconcile: {page.hindrances.join('; ')}.
      </p>{/if}<TextArea
      labelText={page.hindrances.length > 0
        ? 'Why it is closed all the same'
        : 'A word to it, if you wish'}
      bind:value={reason}
      rows={3}
      maxlength={2000}
    />{#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  </div>
</Modal>

<style>
  .case {
    padding: 14px 18px 24px;
    display: grid;
    gap: 14px;
    align-content: start;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 10px;
  }
  .watch {
    display: grid;
    justify-items: end;
  }
  .watch b {
    font-size: 30px;
  }
  .watch.late b {
    color: var(--rust);
  }
  .step {
    display: grid;
    gap: 8px;
    border-top: 2px solid var(--ink);
    padding-top: 8px;
  }
  .step h2 {
    display: flex;
    gap: 10px;
    align-items: baseline;
    font-size: 16px;
    color: var(--ink);
  }
  .step h2 span:last-child:not(.no) {
    font-weight: 400;
    color: var(--ink-soft);
    font-size: 14px;
  }
  .no {
    font-family: var(--mono);
    color: var(--brass);
  }
  .hazard {
    white-space: pre-line;
  }
  .tags {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
    gap: 8px;
  }
  .balance {
    display: block;
  }
  .done {
    background: var(--sea-pale);
    color: var(--sea);
    padding: 8px 12px;
    font-weight: 600;
  }
  .step > button {
    justify-self: start;
  }
  .acts {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    align-items: center;
  }
  .narrow {
    min-width: 0;
  }
  .ways li {
    padding: 2px 0 2px 14px;
    border-left: 3px solid var(--rust);
    margin-bottom: 4px;
  }
  .relate {
    display: flex;
    gap: 8px;
    align-items: center;
  }
  .relate {
    flex-wrap: wrap;
  }
  .relate .field {
    height: 34px;
    width: 130px;
  }
  .relate .wide {
    width: 220px;
  }
  .aside {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 18px;
  }
  .log li {
    padding: 6px 0;
    border-bottom: 1px solid var(--line);
    font-size: 14px;
  }
  .figure {
    font-size: 14px;
    color: var(--ink-soft);
  }
  .figure b {
    font-size: 23px;
    color: var(--ink);
  }
  .figure b.stop {
    color: var(--rust);
  }
  .end {
    margin-left: auto;
    display: inline-flex;
    gap: 10px;
  }
</style>
