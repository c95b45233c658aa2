<script lang="ts">
  import { refresh } from '$lib/ui/frame/refresh.ts';
  import {
    gs1Misfit,
    makeNumber,
    schemeFaults,
    type Period,
    type Segment
  } from '$lib/core/numbers/scheme.ts';
  import { ONLY_NEW, send, type Refusal } from '$lib/ui/frame/api.ts';
  import { askUnlessKept } from '$lib/ui/frame/ask-before-leaving.ts';
  import OtherErrors from '$lib/ui/parts/OtherErrors.svelte';
  import SegmentEditor from '$lib/ui/catalogue/SegmentEditor.svelte';
  import { sayQuantity } from '$lib/ui/parts/say.ts';

  let { data } = $props();
  type Form = { code: string; name: string; segments: Segment[]; reset: Period; last: number };
  let form = $state<Form | null>(null);
  const unsaved = askUnlessKept(() => form);
  let isNew = $state(false);
  let refusal = $state.raw<Refusal | null>(null);
  const RESETS: [Period, string][] = [
    ['never', 'never begins anew'],
    ['year', 'begins anew every year'],
    ['month', 'begins anew every month'],
    ['week', 'begins anew every ISO week'],
    ['day', 'begins anew every day']
  ];

  const occasion = (product: string) => ({ site: 'QW', product, day: data.today, shift: 'A' });
  const nextOf = (
    scheme: { segments: readonly Segment[]; reset: Period; last: number },
    product: string,
    count: number
  ) =>
    Array.from({ length: count }, (_, index) =>
      makeNumber(scheme, occasion(product), scheme.last + index + 1)
    );
  const faults = $derived(form ? schemeFaults(form) : []);
  const next = $derived(form ? nextOf(form, 'TN150', 5) : []);
  const misfit = $derived(
    next[0]?.ok
      ? gs1Misfit(next.at(-1)!.ok ? (next.at(-1) as { number: string }).number : next[0].number)
      : null
  );

  function edit(scheme: (typeof data.schemes)[number] | null): void {
    isNew = scheme === null;
    refusal = null;
    form = scheme
      ? {
          code: scheme.code,
          name: scheme.name,
          segments: scheme.segments.map((segment) => ({ ...segment })),
          reset: scheme.reset,
          last: scheme.last
        }
      : {
          code: '',
          name: '',
          segments: [
            { kind: 'text', text: 'TN-' },
            { kind: 'counter', width: 6, letters: false }
          ],
          reset: 'never',
          last: 0
        };
    unsaved.kept();
  }
  async function save(): Promise<void> {
    if (!form) return;
    const reply = await send(
      'PUT',
      `/api/v1/numbering-schemes/${encodeURIComponent(form.code.trim() || ' ')}`,
      { name: form.name, segments: form.segments, reset: form.reset },
      isNew ? ONLY_NEW : {}
    );
    refusal = reply.ok ? null : reply.refusal;
    if (reply.ok) {
      form = null;
      unsaved.kept();
      await refresh();
    }
  }
  const move = (index: number, by: -1 | 1): void => {
    if (!form || !form.segments[index + by]) return;
    const segments = [...form.segments];
    [segments[index], segments[index + by]] = [segments[index + by]!, segments[index]!];
    form.segments = segments;
  };
</script>

<svelte:head><title>Numbering · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Numbering schemes</h1>
    {#if data.mayEdit}<button class="act main" onclick={() => edit(null)}>New scheme</button>{/if}
  </div>
  {#if form}
    <form
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div class="edit">
        <OtherErrors {refusal} />
        <div class="row">
          <label class="stack"
            >Code<input
              class="field number"
              bind:value={form.code}
              disabled={!isNew}
              required
              maxlength="60"
            /></label
          >
          <label class="stack wide"
            >Name<input class="field" bind:value={form.name} required maxlength="200" /></label
          >
          <label class="stack"
            >Its counter<select class="field" bind:value={form.reset}
              >{#each RESETS as [value, says] (value)}<option {value}>{says}</option>{/each}</select
            ></label
          >
        </div>
        <h2>A number is made of</h2>
        <ol>
          {#each form.segments as segment, index (index)}
            <li>
              <SegmentEditor
                {segment}
                at={index + 1}
                onchange={(changed) => {
                  form!.segments = form!.segments.with(index, changed);
                }}
              />
              <span class="move">
                <button
                  type="button"
                  aria-label="Part {index + 1} further left"
                  disabled={index === 0}
                  onclick={() => move(index, -1)}>←</button
                >
                <button
                  type="button"
                  aria-label="Part {index + 1} further right"
                  disabled={index === form.segments.length - 1}
                  onclick={() => move(index, 1)}>→</button
                >
                <button
                  type="button"
                  aria-label="Remove part {index + 1}"
                  onclick={() => {
                    form!.segments = form!.segments.toSpliced(index, 1);
                  }}>✕</button
                >
              </span>
            </li>
          {/each}
          <li class="add">
            <button
              type="button"
              class="act"
              onclick={() => {
                form!.segments = [...form!.segments, { kind: 'text', text: '-' }];
              }}>Add a part</button
            >
          </li>
        </ol>
        <div class="acts">
          <button
            class="act main"
            disabled={faults.length > 0 || form.code.trim() === '' || form.name.trim() === ''}
            >Keep {form.code || 'scheme'}</button
          ><button type="button" class="act" onclick={() => (form = null)}>Leave it</button>
        </div>
      </div>
      <aside aria-live="polite">
        <h2>The next five</h2>
        {#each next as one, index (index)}<p class="number next" class:stop={!one.ok}>
            {one.ok ? one.number : one.why}
          </p>{/each}
        {#each faults as fault (fault)}<p class="stop small">{fault}</p>{/each}
        {#if misfit}<p class="warn small">
            Would not fit a GS1 symbol: {misfit}.
          </p>{:else if faults.length === 0}<p class="good small">✓ fits a GS1 symbol</p>{/if}
        <p class="soft small">
          Shown for TN150 at QW, today, shift A. {sayQuantity(String(form.last))} given so far in this
          period; the counter goes on from there.
        </p>
      </aside>
    </form>
  {/if}
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Code</th><th scope="col">Name</th><th scope="col">Next number</th><th
          scope="col">Counter</th
        ><th scope="col">Used by</th><th><span class="visually-hidden">Change</span></th></tr
      ></thead
    >
    <tbody>
      {#each data.schemes as scheme (scheme.code)}
        {@const first = nextOf(scheme, scheme.products[0] ?? 'PRODUCT', 1)[0]!}
        <tr
          ><td class="number"><b>{scheme.code}</b></td><td>{scheme.name}</td><td
            class="number"
            class:stop={!first.ok}>{first.ok ? first.number : first.why}</td
          ><td>{RESETS.find(([value]) => value === scheme.reset)![1]}</td><td class="number small"
            >{scheme.products.join(', ')}</td
          ><td class="right"
            >{#if data.mayEdit}<button
                class="act quiet"
                aria-label="Change {scheme.code}"
                onclick={() => edit(scheme)}>Change</button
              >{/if}</td
          ></tr
        >
      {:else}<tr
          ><td colspan="6" class="soft"
            >No scheme yet. A scheme makes the next lot or serial number, so that nobody types one
            twice.</td
          ></tr
        >{/each}
    </tbody>
  </table>
</div>

<style>
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 270px;
    gap: 24px;
    padding: 16px 18px;
    margin-bottom: 18px;
    border: 1px solid var(--line);
    border-top: 3px solid var(--brass);
    background: var(--paper);
  }
  .edit {
    display: grid;
    gap: 12px;
  }
  .row {
    display: flex;
    gap: 14px;
    flex-wrap: wrap;
  }
  .wide {
    flex: 1;
    min-width: 180px;
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
  }
  li {
    display: grid;
    gap: 4px;
    border: 1px solid var(--line);
    background: var(--panel);
    padding: 8px 10px;
  }
  li.add {
    border: 0;
    background: none;
    align-content: center;
  }
  .move {
    display: flex;
    justify-content: space-between;
  }
  .move button {
    border: 0;
    background: none;
    cursor: pointer;
    min-width: 32px;
    min-height: 28px;
    color: var(--brass);
  }
  .move button:disabled {
    color: var(--line-strong);
  }
  .acts {
    display: flex;
    gap: 10px;
  }
  aside {
    border-left: 1px solid var(--line);
    padding-left: 18px;
    display: grid;
    gap: 6px;
    align-content: start;
  }
  .next {
    font-weight: 600;
    font-size: 16px;
  }
  .warn {
    background: var(--amber);
    padding: 6px 8px;
  }
  @media (max-width: 800px) {
    form {
      grid-template-columns: 1fr;
    }
    aside {
      border-left: 0;
      padding-left: 0;
    }
  }
</style>
