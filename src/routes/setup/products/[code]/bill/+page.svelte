<script lang="ts">
  import type { Choice } from '$lib/core/catalogue/choice.ts';
  import CodeField from '$lib/ui/parts/CodeField.svelte';
  import DateField from '$lib/ui/parts/DateField.svelte';
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { sayDay } from '$lib/core/calendar/say-day.ts';
  import { send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import OtherErrors from '$lib/ui/parts/OtherErrors.svelte';
  import { fieldError } from '$lib/ui/parts/refusal.ts';
  import ImportTable from '$lib/ui/parts/ImportTable.svelte';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  interface Line {
    product: string;
    quantity: string;
    per: 'unit' | 'batch';
    scrapPercent: string;
    follow: 'unit' | 'batch' | 'drawn';
    positions: string;
    alternates: string;
    revision: string;
  }
  const linesOf = (bill: typeof data.bill): Line[] =>
    (bill?.parts ?? []).map((part) => ({
      ...part,
      positions: part.positions.join(', '),
      alternates: part.alternates.join(', '),
      revision: part.revision ?? ''
    }));
  let lines = $state(untrack(() => linesOf(data.bill)));
  let coProducts = $state(untrack(() => data.bill?.coProducts.map((co) => ({ ...co })) ?? []));
  let batch = $state(untrack(() => data.bill?.batch ?? ''));
  let addedCost = $state(untrack(() => data.bill?.addedCost ?? ''));
  let note = $state(untrack(() => data.bill?.note ?? ''));
  let validFrom = $state(untrack(() => data.today));
  const unsaved = askUnlessKept(() => [lines, coProducts, batch, addedCost, note, validFrom]);
  let refusal = $state.raw<Refusal | null>(null);
  let kept = $state('');
  let wanted = $state(untrack(() => data.wanted));
  let importing = $state(false);
  let busy = $state(false);
  const known = (code: string) =>
    [...chosen, ...data.others].find((one) => one.code.toUpperCase() === code.trim().toUpperCase());
  /** Products that were chosen since. */
  let chosen = $state.raw<Choice[]>([]);
  const before = $derived(
    JSON.stringify([
      linesOf(data.bill),
      data.bill?.coProducts ?? [],
      data.bill?.batch ?? '',
      data.bill?.addedCost ?? '',
      data.bill?.note ?? ''
    ])
  );
  const changed = $derived(JSON.stringify([lines, coProducts, batch, addedCost, note]) !== before);
  const code = $derived(data.product.code);
  const listed = (text: string) =>
    text
      .split(/[,;]/)
      .map((one) => one.trim())
      .filter(Boolean);
  const FOLLOWS = [
    ['unit', 'for each unit'],
    ['batch', 'for the batch'],
    ['drawn', 'drawn by itself']
  ] as const;

  async function keep(): Promise<void> {
    busy = true;
    const reply = await send<{ version: number }>(
      'PUT',
      `/api/v1/products/${encodeURIComponent(code)}/bill`,
      {
        validFrom,
        batch: batch.trim() || null,
        ...(data.seesCosts ? { addedCost: addedCost.trim() || null } : {}),
        note,
        coProducts: coProducts.filter((co) => co.product.trim()),
        parts: lines
          .filter((line) => line.product.trim())
          .map((line) => ({
            ...line,
            scrapPercent: line.scrapPercent || '0',
            positions: listed(line.positions),
            alternates: listed(line.alternates),
            revision: line.revision.trim() || null
          }))
      }
    );
    busy = false;
    refusal = reply.ok ? null : reply.refusal;
    if (!reply.ok) return;
    unsaved.kept();
    kept =
      reply.status === 201
        ? `✓ Kept as version ${reply.body.version}.`
        : 'Nothing was changed: it is as the version in force.';
    await goto(`/setup/products/${encodeURIComponent(code)}/bill?version=${reply.body.version}`, {
      invalidateAll: true
    });
    lines = linesOf(data.bill);
  }
  function show(version: number): void {
    void goto(`?version=${version}`).then(() => {
      // Not where somebody rather stays with what is not kept.
      if (String(data.bill?.version) !== String(version)) return;
      lines = linesOf(data.bill);
      coProducts = data.bill?.coProducts.map((co) => ({ ...co })) ?? [];
      batch = data.bill?.batch ?? '';
      addedCost = data.bill?.addedCost ?? '';
      note = data.bill?.note ?? '';
      unsaved.kept();
      kept = '';
      refusal = null;
    });
  }
  const fresh = (): Line => ({
    product: '',
    quantity: '1',
    per: 'unit',
    scrapPercent: '0',
    follow: 'unit',
    positions: '',
    alternates: '',
    revision: ''
  });
  /** A part kept by quantity only can only be drawn. */
  function settle(line: Line, choice: Choice | null): void {
    if (choice) chosen = [choice, ...chosen];
    if (choice?.marking === 'none') line.follow = 'drawn';
  }
</script>

<svelte:head><title>Bill of {code} · Setup · Earmark</title></svelte:head>
<div class="screen">
  <div class="head">
    <h1>
      What one <span class="number">{code}</span> takes
      <span class="name">{data.product.name}</span>
    </h1>
    <span class="acts"
      ><a class="act" href="/api/v1/exports/bills?format=xlsx&product={encodeURIComponent(code)}"
        >As XLSX</a
      ><a class="act" href="/api/v1/exports/bills?format=csv&product={encodeURIComponent(code)}"
        >CSV</a
      >{#if data.mayEdit}<button class="act" onclick={() => (importing = !importing)}
          >From a file</button
        >{/if}<a class="act quiet" href="/setup/products/{encodeURIComponent(code)}">Product</a
      ></span
    >
  </div>
  {#if importing}<ImportTable
      kind="bills"
      what={['bill', 'bills']}
      columns={[
        'product',
        'valid from',
        'batch makes',
        'component',
        'quantity',
        'per',
        'scrap per cent',
        'followed',
        'positions',
        'alternates',
        'revision'
      ].map((says) => ({ says, required: ['product', 'component', 'quantity'].includes(says) }))}
    />{/if}
  {#if data.versions.length > 0}
    <ol class="versions" aria-label="Versions of the bill">
      {#each data.versions as one (one.version)}
        <li>
          <button
            class:on={data.bill?.version === one.version}
            aria-pressed={data.bill?.version === one.version}
            onclick={() => show(one.version)}
            ><b>version {one.version}</b>{#if data.present === one.version}&nbsp;<span class="good"
                >in force</span
              >{/if}<br /><span class="small"
              >from {sayDay(one.validFrom)} · {count(one.parts, 'part')}{one.orders > 0
                ? ` · ${count(one.orders, 'order')}`
                : ''}</span
            ></button
          >
        </li>
      {/each}
    </ol>
    {#if data.bill}<p class="small soft">
        Version {data.bill.version} was kept {#if data.versions.find((one) => one.version === data.bill?.version)?.who}by
          {data.versions.find((one) => one.version === data.bill?.version)?.who}{/if} on {sayInstant(
          data.versions.find((one) => one.version === data.bill?.version)?.madeAt ?? ''
        )}. A bill is never changed: what is kept here is a new version, and open orders keep
        theirs.
      </p>{/if}
  {/if}
  <OtherErrors
    {refusal}
    known={[
      ...lines.map((_, index) => `parts[${index}]`),
      ...lines.map((_, index) => `parts[${index}].product`),
      ...coProducts.map((_, index) => `coProducts[${index}]`),
      'batch'
    ]}
  />
  {#if kept}<p class="kept" role="status">{kept}</p>{/if}
  <fieldset disabled={!data.mayEdit}>
    <div class="wide">
      <table class="plain edit">
        <thead
          ><tr
            ><th scope="col">Part</th><th scope="col">Quantity</th><th scope="col">per</th><th
              scope="col">Scrap %</th
            ><th scope="col">Named</th><th scope="col">Positions</th><th scope="col">Alternates</th
            ><th scope="col">Revision</th><th><span class="visually-hidden">Remove</span></th></tr
          ></thead
        >
        <tbody>
          {#each lines as line, index (index)}
            {@const wrong = fieldError(refusal, `parts[${index}]`, `parts[${index}].product`)}
            <tr class:wrong={wrong !== ''}>
              <td
                ><CodeField
                  label="Part {index + 1}"
                  quiet
                  of="product"
                  bind:value={line.product}
                  name={known(line.product)?.name ?? ''}
                  error={wrong}
                  onchoice={(choice) => settle(line, choice)}
                /></td
              >
              <td
                ><span class="amount"
                  ><input
                    class="field number"
                    inputmode="decimal"
                    bind:value={line.quantity}
                    aria-label="Quantity of part {index + 1}"
                  /><span class="small soft">{known(line.product)?.unit ?? ''}</span></span
                ></td
              >
              <td
                ><select
                  class="field"
                  bind:value={line.per}
                  aria-label="Per unit or batch, part {index + 1}"
                  ><option value="unit">unit</option><option value="batch">batch</option></select
                ></td
              >
              <td
                ><input
                  class="field number short"
                  inputmode="decimal"
                  bind:value={line.scrapPercent}
                  aria-label="Scrap allowance of part {index + 1}"
                /></td
              >
              <td
                ><select
                  class="field"
                  bind:value={line.follow}
                  aria-label="How part {index + 1} is named"
                  >{#each FOLLOWS as [value, says] (value)}<option {value}>{says}</option
                    >{/each}</select
                ></td
              >
              <td
                ><input
                  class="field"
                  bind:value={line.positions}
                  placeholder="left, right"
                  aria-label="Positions of part {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number"
                  bind:value={line.alternates}
                  aria-label="Alternates of part {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={line.revision}
                  maxlength="60"
                  aria-label="Revision of part {index + 1}"
                /></td
              >
              <td
                ><button
                  type="button"
                  class="act quiet"
                  aria-label="Remove part {index + 1}"
                  onclick={() => (lines = lines.toSpliced(index, 1))}>✕</button
                ></td
              >
            </tr>
          {:else}<tr
              ><td colspan="9" class="soft"
                >No parts yet. A build without a bill is a loose end: nobody can say what is
                missing.</td
              ></tr
            >{/each}
        </tbody>
      </table>
    </div>
    {#if coProducts.length > 0}
      <h2>What else it makes</h2>
      {#each coProducts as co, index (index)}
        <div class="co">
          <CodeField
            label="Co-product {index + 1}"
            quiet
            of="product"
            bind:value={co.product}
            name={known(co.product)?.name ?? ''}
          /><input
            class="field number short"
            bind:value={co.quantity}
            inputmode="decimal"
            aria-label="Quantity of co-product {index + 1}"
          />
          per unit, taking
          <input
            class="field number short"
            bind:value={co.share}
            inputmode="decimal"
            aria-label="Share of co-product {index + 1}"
          />
          % of what goes in
          <button
            type="button"
            class="act quiet"
            aria-label="Remove co-product {index + 1}"
            onclick={() => (coProducts = coProducts.toSpliced(index, 1))}>✕</button
          >{#if fieldError(refusal, `coProducts[${index}]`)}<span class="stop small"
              >{fieldError(refusal, `coProducts[${index}]`)}</span
            >{/if}
        </div>
      {/each}
    {/if}
    {#if data.mayEdit}
      <div class="foot">
        <button type="button" class="act" onclick={() => (lines = [...lines, fresh()])}
          >Add a part</button
        >
        <button
          type="button"
          class="act quiet"
          onclick={() => (coProducts = [...coProducts, { product: '', quantity: '', share: '' }])}
          >Add a co-product</button
        >
        {#if batch !== '' || lines.some((line) => line.per === 'batch')}<label class="stack inline"
            >one batch makes<input
              class="field number short"
              bind:value={batch}
              inputmode="decimal"
              placeholder="all"
            /></label
          >{/if}
        {#if data.seesCosts}<label class="stack inline"
            >making one adds<input
              class="field number short"
              bind:value={addedCost}
              inputmode="decimal"
              placeholder="nothing"
              title="What making one costs beside its parts"
            /></label
          >{/if}
        <label class="stack inline note"
          >what is new<input class="field" bind:value={note} maxlength="2000" /></label
        >
        <DateField label="from" inline bind:value={validFrom} />
        <button type="button" class="act main" disabled={!changed || busy} onclick={keep}
          >Keep as version {(data.versions[0]?.version ?? 0) + 1}</button
        >
      </div>
    {/if}
  </fieldset>

  <div class="two">
    <section>
      <h2>Through all levels</h2>
      {#if data.why}<p class="refused">{data.why}</p>{/if}
      {#if data.explosion}
        <form
          class="for"
          onsubmit={(event) => {
            event.preventDefault();
            void goto(
              `?quantity=${encodeURIComponent(wanted)}${data.bill && data.bill.version !== data.present ? `&version=${data.bill.version}` : ''}`,
              { noScroll: true, keepFocus: true }
            );
          }}
        >
          <label
            >for <input
              class="field number short"
              bind:value={wanted}
              inputmode="decimal"
              aria-label="Quantity to explode"
            />
            {data.product.unit}</label
          > <button class="act">Work out</button>
        </form>
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Part</th><th scope="col" class="right">Goes in</th><th
                scope="col"
                class="right">Planned</th
              ><th scope="col">Named</th></tr
            ></thead
          >
          <tbody
            >{#each data.explosion.lines.slice(0, 400) as line, index (index)}<tr
                ><td style:padding-left="{10 + (line.level - 1) * 22}px"
                  ><span class="visually-hidden">level {line.level}:</span><b class="number"
                    >{line.product}</b
                  > <span class="soft small">{line.name}</span></td
                ><td class="right number"
                  >{sayQuantity(line.net)} <span class="small soft">{line.unit}</span></td
                ><td class="right number"
                  >{line.planned === line.net ? '' : sayQuantity(line.planned)}</td
                ><td class="small soft"
                  >{FOLLOWS.find(([value]) => value === line.follow)?.[1]}{line.alternates.length >
                  0
                    ? ` · or ${line.alternates.join(', ')}`
                    : ''}</td
                ></tr
              >{/each}</tbody
          >
        </table>
        {#if data.explosion.lines.length > 400}<p class="small soft">
            and {data.explosion.lines.length - 400} more lines; the API has them all.
          </p>{/if}
      {:else if !data.why}<p class="soft">
          With a bill, every part of every part is listed here.
        </p>{/if}
    </section>
    <section>
      {#if data.explosion && data.explosion.needs.some((need) => !need.made)}
        <h2>To have ready</h2>
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Product</th><th scope="col" class="right">Planned</th><th
                scope="col"
                class="right">On hand</th
              ><th scope="col" class="right">Short</th></tr
            ></thead
          >
          <tbody
            >{#each data.explosion.needs
              .filter((need) => !need.made)
              .slice(0, 200) as need (need.product)}<tr
                ><td class="number">{need.product}</td><td class="right number"
                  >{sayQuantity(need.planned)}</td
                ><td class="right number">{sayQuantity(need.onHand)}</td><td
                  class="right number"
                  class:stop={need.short !== '0'}
                  >{need.short === '0' ? '' : sayQuantity(need.short)}
                  <span class="small soft">{need.unit}</span></td
                ></tr
              >{/each}</tbody
          >
        </table>
      {/if}
      <h2>Where {code} is used</h2>
      <ul class="used">
        {#each data.usedIn as one, index (index)}<li style:padding-left="{(one.level - 1) * 18}px">
            <a class="number" href="/setup/products/{encodeURIComponent(one.product)}/bill"
              >{one.product}</a
            >
            {one.name}
            <span class="small soft"
              >{one.level === 1
                ? `${sayQuantity(one.quantity)} ${one.unit}${one.as === 'alternate' ? ' as an alternate' : ''}`
                : `through ${one.path.slice(1).join(', ')}`}</span
            >
          </li>{:else}<li class="soft">In no other product.</li>{/each}
      </ul>
    </section>
  </div>
</div>

<style>
  .screen {
    padding: 16px 24px 40px;
    display: grid;
    gap: 12px;
    align-content: start;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
    justify-content: space-between;
    align-items: center;
  }
  .name {
    font-weight: 400;
  }
  .acts {
    display: flex;
    gap: 8px;
  }
  .versions {
    display: flex;
    gap: 8px;
    overflow-x: auto;
    padding-bottom: 4px;
  }
  .versions button {
    text-align: left;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    padding: 6px 12px;
    cursor: pointer;
    white-space: nowrap;
  }
  .versions .on {
    border: 2px solid var(--brass);
    background: var(--brass-pale);
    padding: 5px 11px;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 10px;
    min-width: 0;
  }
  .wide {
    overflow-x: auto;
  }
  .edit td {
    padding: 5px 6px;
    vertical-align: top;
  }
  .edit .field {
    width: 100%;
    min-width: 84px;
    height: 36px;
  }
  .edit .short {
    min-width: 58px;
  }
  .edit select {
    min-width: 76px;
  }
  .edit td:nth-child(5) select {
    min-width: 142px;
  }
  .edit td:nth-child(4) .field,
  .edit td:nth-child(8) .field {
    width: 72px;
  }
  .edit .amount {
    display: flex;
    gap: 4px;
    align-items: center;
  }
  .edit .amount .field {
    width: 84px;
  }
  tr.wrong {
    background: var(--rust-pale);
  }
  .co {
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
  }
  .short {
    width: 84px;
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 14px;
    align-items: center;
  }
  .inline {
    grid-auto-flow: column;
    align-items: center;
    gap: 6px;
  }
  .note {
    flex: 1 1 200px;
    grid-template-columns: auto 1fr;
  }
  .foot .main {
    margin-left: auto;
  }
  .two {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
    gap: 12px 34px;
    margin-top: 8px;
  }
  section {
    display: grid;
    gap: 8px;
    align-content: start;
    min-width: 0;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
  }
  .for {
    display: flex;
    gap: 10px;
    align-items: center;
  }
  .for .field,
  .for .act {
    height: 34px;
    min-height: 34px;
  }
  .used li {
    padding: 4px 0;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
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
