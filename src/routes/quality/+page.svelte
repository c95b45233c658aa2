<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { sayDay, sayDistance } from '$lib/core/calendar/say-day.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import Tag from '$lib/ui/stock/Tag.svelte';
  import { newKey } from '$lib/ui/frame/new-key.ts';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let refused = $state.raw<string[]>([]);
  let picked = $state.raw(new Set<number>());
  let reason = $state('');

  async function sign(id: number): Promise<void> {
    const reply = await send('POST', `/api/v1/tests/${id}/signature`);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await refresh();
  }
  const toggle = (id: number): void => {
    const next = new Set(picked);
    if (!next.delete(id)) next.add(id);
    picked = next;
  };
  /** One decision on many marks. */
  async function decide(kind: 'release' | 'reject'): Promise<void> {
    const marks = data.held.rows
      .filter((mark) => picked.has(mark.id))
      .map((mark) => ({
        product: mark.product,
        ...(mark.kind === 'serial' ? { serial: mark.number } : { lot: mark.number })
      }));
    const reply = await send(
      'POST',
      '/api/v1/quality-decisions',
      { document: `Q-${data.today.slice(2).replaceAll('-', '')}`, kind, reason, marks },
      { 'idempotency-key': newKey() }
    );
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    picked = new Set();
    reason = '';
    await refresh();
  }
</script>

<svelte:head><title>Quality · Earmark</title></svelte:head>
<div class="screen">
  <h1>Quality</h1>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  <div class="two">
    <section>
      <h2>Held, waiting for a decision <span>{data.held.total}</span></h2>
      <ul class="tags">
        {#each data.held.rows as mark (mark.id)}
          <li>
            {#if data.mayDecide}<input
                type="checkbox"
                checked={picked.has(mark.id)}
                onchange={() => toggle(mark.id)}
                aria-label="Choose {mark.number}"
              />{/if}<Tag
              kind={mark.kind}
              number={mark.number}
              under="{mark.product} · {sayQuantity(mark.onHand)} {mark.unit}"
              state="held"
              href="/marks/{mark.id}"
            />
            <p class="small soft">
              <b>{sayDistance(mark.since, data.today)}</b>
              {mark.reason ?? ''}
            </p>
          </li>
        {:else}<li class="none">Nothing is held.</li>{/each}
      </ul>
      {#if data.held.total > data.held.rows.length}<p class="small soft">
          and {data.held.total - data.held.rows.length} more held; these have waited longest
        </p>{/if}
      {#if picked.size > 0}<div class="decide">
          <label class="stack"
            >why, kept for ever<input class="field" bind:value={reason} maxlength="2000" /></label
          ><button class="act" disabled={reason.trim() === ''} onclick={() => decide('release')}
            >Release {picked.size}</button
          ><button
            class="act danger"
            disabled={reason.trim() === ''}
            onclick={() => decide('reject')}>Reject {picked.size}</button
          >
        </div>{/if}
      <h2>Retest due within 30 days <span>{data.retests.total}</span></h2>
      <ul class="tags">
        {#each data.retests.rows as mark (mark.id)}<li>
            <Tag
              kind={mark.kind}
              number={mark.number}
              under={mark.product}
              href="/marks/{mark.id}"
            />
            <p class="small" class:stop={mark.retest < data.today}>
              {sayDay(mark.retest)}, {sayDistance(mark.retest, data.today)}
            </p>
          </li>{:else}<li class="none">No retest is due.</li>{/each}
      </ul>
      {#if data.retests.total > data.retests.rows.length}<p class="small soft">
          and {data.retests.total - data.retests.rows.length} more due; these come first
        </p>{/if}
    </section>
    <section>
      <h2>Tests that wait for a second person <span>{data.unsigned.total}</span></h2>
      <ul>
        {#each data.unsigned.rows as test (test.id)}
          <li class="test">
            <a class="number" href="/marks/{test.mark}"><b>{test.number}</b></a>
            <span class="small soft"
              >{test.product} · {sayInstant(test.takenAt)} by {test.who}{test.instrument
                ? `, ${test.instrument}`
                : ''}</span
            >
            <span class="results"
              >{#each test.results as result (result.name)}<span
                  >{result.name} <b class="number">{result.value}</b> {result.unit}</span
                >{/each}</span
            >
            {#if data.mayTest}<button
                class="act"
                disabled={test.own}
                title={test.own ? 'You made this test; somebody else signs it.' : ''}
                onclick={() => sign(test.id)}>{test.own ? 'Your own test' : 'Sign off'}</button
              >{/if}
          </li>
        {:else}<li class="none">Every test is signed off.</li>{/each}
      </ul>
      {#if data.unsigned.total > data.unsigned.rows.length}<p class="small soft">
          and {data.unsigned.total - data.unsigned.rows.length} more wait; these are the oldest
        </p>{/if}
      <h2>Specs <span>{data.specs.total}</span></h2>
      <NarrowField
        q={data.q}
        placeholder="Any product: code or name …"
        label="Specs of products that hold this text, with a spec or without"
        path="/quality"
      />
      <WideTable of="tests to sign off">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Product</th><th scope="col">Limits</th><th scope="col">Customers</th
              ><th scope="col" class="right">Tests</th></tr
            ></thead
          >
          <tbody
            >{#each data.specs.rows as product (product.code)}<tr
                ><td
                  ><a class="number" href="/quality/products/{encodeURIComponent(product.code)}"
                    >{product.code}</a
                  >
                  {product.name}</td
                ><td>{product.limits || (product.customers > 0 ? '' : 'no spec')}</td><td
                  >{product.customers > 0 ? count(product.customers, 'customer') : ''}</td
                ><td class="right number">{product.tests}</td></tr
              >{:else}<tr
                ><td colspan="4" class="soft"
                  >{data.q
                    ? 'No product holds that text.'
                    : 'No product has a spec yet. Look for one above to give it one.'}</td
                ></tr
              >{/each}</tbody
          >
        </table>
      </WideTable>
      <ListPages
        page={{ ...data.specs, q: data.q, after: data.after }}
        of="products"
        path="/quality"
      />
    </section>
  </div>
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    gap: 14px;
    align-content: start;
  }
  .two {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
    gap: 28px;
  }
  section {
    display: grid;
    gap: 10px;
    align-content: start;
  }
  h2 {
    display: flex;
    justify-content: space-between;
    border-bottom: 1px solid var(--line);
    padding: 4px 0 8px;
    font-size: 14px;
  }
  .tags {
    display: grid;
    gap: 10px;
  }
  .tags li {
    display: grid;
    grid-auto-flow: column;
    grid-template-columns: auto 204px minmax(0, 1fr);
    gap: 10px;
    align-items: center;
    justify-content: start;
  }
  .tags li:not(:has(input)) {
    grid-template-columns: 204px minmax(0, 1fr);
  }
  .none {
    color: var(--ink-soft);
    display: block !important;
  }
  .test {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 2px 12px;
    padding: 8px 0;
    border-bottom: 1px solid #ebe5da;
  }
  .test > :first-child,
  .test > :nth-child(2),
  .results {
    grid-column: 1;
  }
  .test button {
    grid-column: 2;
    grid-row: 1 / span 3;
    align-self: center;
  }
  .results {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    font-size: 14px;
  }
  .decide {
    display: flex;
    gap: 10px;
    align-items: end;
    background: var(--amber);
    padding: 10px 12px;
  }
  .decide label {
    flex: 1;
  }
  input[type='checkbox'] {
    width: 18px;
    height: 18px;
  }
  @media (max-width: 900px) {
    .two {
      grid-template-columns: minmax(0, 1fr);
    }
    .screen {
      padding: 12px;
    }
  }
</style>
