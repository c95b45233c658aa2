<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import { judge, type Limit } from '$lib/core/quality/spec.ts';
  import { messagesOf, send } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import CharacteristicChart from '$lib/ui/quality/CharacteristicChart.svelte';
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { sayInstant } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  interface Line {
    name: string;
    kind: Limit['kind'];
    unit: string;
    least: string;
    most: string;
    good: string;
    choices: string;
    required: boolean;
  }
  const present = (partner: string) => data.specs.find((one) => (one.partner ?? '') === partner);
  const linesOf = (partner: string): Line[] =>
    (present(partner)?.spec.limits ?? []).map((limit) => ({
      ...limit,
      least: limit.least ?? '',
      most: limit.most ?? '',
      good: limit.good.join(', '),
      choices: limit.choices.join(', ')
    }));
  let partner = $state(untrack(() => data.partner));
  let lines = $state(untrack(() => linesOf(data.partner)));
  let holdOnFail = $state(untrack(() => present(data.partner)?.spec.holdOnFail ?? false));
  let retestDays = $state(untrack(() => present(data.partner)?.spec.retestDays?.toString() ?? ''));
  let sampling = $state(untrack(() => present(data.partner)?.spec.sampling ?? ''));
  const unsaved = askUnlessKept(() => [lines, holdOnFail, retestDays, sampling]);
  let refused = $state.raw<string[]>([]);
  let kept = $state('');
  let shown = $state('');
  const listed = (text: string) =>
    text
      .split(/[,;]/)
      .map((one) => one.trim())
      .filter(Boolean);
  const limits = $derived(data.specs.find((one) => one.partner === null)?.spec.limits ?? []);
  const numbers = $derived(limits.filter((limit) => limit.kind === 'number'));
  const charted = $derived(numbers.find((limit) => limit.name === shown) ?? numbers[0]);
  const results = $derived(
    charted
      ? data.tests.rows.flatMap((test) => {
          const result = test.results.find(
            (one) => one.name.toUpperCase() === charted.name.toUpperCase()
          );
          return result
            ? [{ ...test, value: result.value, verdict: judge(charted, result).verdict }]
            : [];
        })
      : []
  );

  function show(next: string): void {
    if (!unsaved.mayGo()) return;
    partner = next;
    lines = linesOf(next);
    holdOnFail = present(next)?.spec.holdOnFail ?? false;
    retestDays = present(next)?.spec.retestDays?.toString() ?? '';
    sampling = present(next)?.spec.sampling ?? '';
    unsaved.kept();
    refused = [];
    kept = '';
  }
  async function keep(): Promise<void> {
    const reply = await send<{ version: number }>(
      'PUT',
      `/api/v1/products/${encodeURIComponent(data.product.code)}/spec${partner ? `?partner=${encodeURIComponent(partner)}` : ''}`,
      {
        holdOnFail,
        retestDays: retestDays.trim() ? Number(retestDays) : null,
        sampling,
        limits: lines.map((line) => ({
          ...line,
          least: line.least.trim() || null,
          most: line.most.trim() || null,
          good: listed(line.good),
          choices: listed(line.choices)
        }))
      }
    );
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (!reply.ok) return;
    unsaved.kept();
    kept = `✓ Kept as version ${reply.body.version}.`;
    await refresh();
  }
</script>

<svelte:head><title>Spec of {data.product.code} · Quality · Earmark</title></svelte:head>
<div class="screen">
  <div class="head">
    <h1>
      Spec of <span class="number">{data.product.code}</span>
      <span class="name">{data.product.name}</span>
    </h1>
    <a class="act" href="/quality">Quality</a>
  </div>
  <div class="whose">
    <label class="stack"
      >whose limits<select
        class="field"
        value={partner}
        onchange={(event) => {
          show(event.currentTarget.value);
          event.currentTarget.value = partner;
        }}
        ><option value=""
          >the product’s own{present('') ? `, version ${present('')!.version}` : ''}</option
        >{#each data.customers as customer (customer.code)}<option value={customer.code}
            >{customer.name}{present(customer.code)
              ? `, version ${present(customer.code)!.version}`
              : ''}</option
          >{/each}</select
      ></label
    >
    {#if partner}<p class="small soft">
        Where this customer asks for the same characteristic, its limits go before the product’s;
        the rest of the product’s count too.
      </p>{/if}
  </div>
  {#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
  {#if kept}<p class="kept" role="status">{kept}</p>{/if}
  <fieldset disabled={!data.mayEdit}>
    <div class="scroll">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Characteristic</th><th scope="col">Kind</th><th scope="col">Unit</th
            ><th scope="col">Least</th><th scope="col">Most</th><th scope="col">Answers</th><th
              scope="col">Conforming</th
            ><th scope="col">Must</th><th><span class="visually-hidden">Remove</span></th></tr
          ></thead
        >
        <tbody
          >{#each lines as line, index (index)}
            <tr
              ><td
                ><input
                  class="field"
                  bind:value={line.name}
                  maxlength="100"
                  aria-label="Characteristic {index + 1}"
                /></td
              >
              <td
                ><select
                  class="field"
                  bind:value={line.kind}
                  aria-label="Kind of characteristic {index + 1}"
                  >{#each ['number', 'choice', 'yes/no', 'text'] as kind (kind)}<option value={kind}
                      >{kind}</option
                    >{/each}</select
                ></td
              >
              <td
                ><input
                  class="field short"
                  bind:value={line.unit}
                  disabled={line.kind !== 'number'}
                  aria-label="Unit of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={line.least}
                  disabled={line.kind !== 'number'}
                  inputmode="decimal"
                  aria-label="Least of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field number short"
                  bind:value={line.most}
                  disabled={line.kind !== 'number'}
                  inputmode="decimal"
                  aria-label="Most of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field"
                  bind:value={line.choices}
                  disabled={line.kind !== 'choice'}
                  placeholder={line.kind === 'choice' ? 'tight, loose' : ''}
                  aria-label="Answers of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  class="field"
                  bind:value={line.good}
                  disabled={line.kind !== 'choice' && line.kind !== 'yes/no'}
                  aria-label="Conforming answers of characteristic {index + 1}"
                /></td
              >
              <td
                ><input
                  type="checkbox"
                  bind:checked={line.required}
                  aria-label="Characteristic {index + 1} must be tested"
                /></td
              >
              <td
                ><button
                  type="button"
                  class="act quiet"
                  aria-label="Remove characteristic {index + 1}"
                  onclick={() => (lines = lines.toSpliced(index, 1))}>✕</button
                ></td
              ></tr
            >
          {:else}<tr
              ><td colspan="9" class="soft">No limits yet: nothing of it can conform or not.</td
              ></tr
            >{/each}</tbody
        >
      </table>
    </div>
    {#if data.mayEdit}<div class="foot">
        <button
          type="button"
          class="act"
          onclick={() =>
            (lines = [
              ...lines,
              {
                name: '',
                kind: 'number',
                unit: '',
                least: '',
                most: '',
                good: '',
                choices: '',
                required: true
              }
            ])}>Add a characteristic</button
        >
        {#if !partner}<label class="check"
            ><input type="checkbox" bind:checked={holdOnFail} /> a result outside holds the mark</label
          ><label class="stack inline"
            >tested again after days<input
              class="field number short"
              bind:value={retestDays}
              inputmode="numeric"
            /></label
          ><label class="stack inline grow"
            >sample<input
              class="field"
              bind:value={sampling}
              placeholder="3 of each lot"
              maxlength="200"
            /></label
          >{/if}
        <button type="button" class="act main" onclick={keep}
          >Keep as version {(present(partner)?.version ?? 0) + 1}</button
        >
      </div>{/if}
  </fieldset>
  {#if charted}
    <section>
      <h2>
        {charted.name} over lots{#if numbers.length > 1}<select
            class="field"
            value={charted.name}
            onchange={(event) => (shown = event.currentTarget.value)}
            aria-label="Characteristic of the chart"
            >{#each numbers as limit (limit.name)}<option>{limit.name}</option>{/each}</select
          >{/if}
      </h2>
      {#if results.length > 0}
        <Cut shown={data.tests.rows.length} total={data.tests.total} of="tests" rest="the latest" />
        <CharacteristicChart
          points={results.map((one) => ({
            label: one.number,
            value: Number(one.value),
            good: one.verdict === 'conforms'
          }))}
          unit={charted.unit}
          least={charted.least === null ? null : Number(charted.least)}
          most={charted.most === null ? null : Number(charted.most)}
        />
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Mark</th><th scope="col">Tested</th><th scope="col" class="right"
                >{charted.name}</th
              ><th scope="col">Verdict</th></tr
            ></thead
          >
          <tbody
            >{#each results.toReversed().slice(0, 30) as one (one.test)}<tr
                ><td><a class="number" href="/marks/{one.mark}">{one.number}</a></td><td
                  >{sayInstant(one.takenAt)}{one.signed ? '' : ', not signed off'}</td
                ><td class="right number">{one.value} {charted.unit}</td><td
                  class:good={one.verdict === 'conforms'}
                  class:stop={one.verdict !== 'conforms'}>{one.verdict}</td
                ></tr
              >{/each}</tbody
          >
        </table>
      {:else}<p class="soft">
          Nothing of it was tested yet. Tests are recorded on the page of a lot or serial.
        </p>{/if}
    </section>
  {/if}
  {#if data.partner !== partner && partner}<button
      class="act quiet back"
      onclick={() => void goto(`?partner=${encodeURIComponent(partner)}`)}
      >Link to these limits</button
    >{/if}
</div>

<style>
  .screen {
    padding: 16px 24px 32px;
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 12px;
    align-content: start;
  }
  .head {
    display: flex;
    gap: 18px;
    align-items: center;
  }
  .head .act {
    margin-left: auto;
  }
  .name {
    font-weight: 400;
  }
  .whose {
    display: flex;
    gap: 22px;
    align-items: end;
  }
  fieldset {
    border: 0;
    padding: 0;
    margin: 0;
    display: grid;
    gap: 10px;
    min-width: 0;
  }
  .scroll {
    overflow-x: auto;
  }
  td {
    padding: 5px 6px;
  }
  td .field {
    width: 100%;
    min-width: 90px;
    height: 36px;
  }
  td .short {
    min-width: 64px;
  }
  .short {
    width: 76px;
  }
  input[type='checkbox'] {
    width: 18px;
    height: 18px;
  }
  .foot {
    display: flex;
    flex-wrap: wrap;
    gap: 10px 18px;
    align-items: center;
  }
  .check {
    display: inline-flex;
    gap: 6px;
    align-items: center;
    font-size: 14px;
  }
  .inline {
    grid-auto-flow: column;
    gap: 6px;
    align-items: center;
  }
  .grow {
    flex: 1 1 180px;
    grid-template-columns: auto 1fr;
  }
  .foot .main {
    margin-left: auto;
  }
  .kept {
    color: var(--sea);
    font-weight: 600;
  }
  h2 {
    font-size: 15px;
    color: var(--ink);
    display: flex;
    gap: 12px;
    align-items: center;
    margin-top: 10px;
  }
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
  .back {
    justify-self: start;
  }
</style>
