<!--
  A numbering scheme being written: its parts in their order, and beside them the numbers it would
  make next.
-->
<script lang="ts">
  import { tick } from 'svelte';
  import {
    gs1Misfit,
    makeNumber,
    schemeFaults,
    type Occasion,
    type Period,
    type Segment
  } from '../../core/numbers/scheme.ts';
  import { putRecord } from '../frame/put-record.ts';
  import ChoiceField from '../parts/ChoiceField.svelte';
  import { InPlace } from '../parts/in-place.svelte.ts';
  import { moved } from '../parts/moved.ts';
  import OtherErrors from '../parts/OtherErrors.svelte';
  import { fieldError } from '../parts/refusal.ts';
  import { sayQuantity } from '../parts/say.ts';
  import TextField from '../parts/TextField.svelte';
  import { typedWhole } from '../parts/typed-whole.ts';
  import { RESETS } from './say-scheme.ts';
  import SegmentEditor from './SegmentEditor.svelte';

  interface SchemeRow {
    code: string;
    name: string;
    segments: readonly Segment[];
    reset: Period;
    /** The last count given in its present period. */
    last: number;
    tag: string;
  }
  interface Props {
    /** The scheme that is changed; null for a new one. */
    scheme: SchemeRow | null;
    occasion: Occasion;
    onclose: () => void;
  }
  let { scheme, occasion, onclose }: Props = $props();
  const NEW: Segment[] = [
    { kind: 'text', text: 'S-' },
    { kind: 'counter', width: 6, letters: false }
  ];
  const fill = () => ({
    code: scheme?.code ?? '',
    name: scheme?.name ?? '',
    segments: (scheme?.segments ?? NEW).map((segment) => ({ ...segment })),
    reset: scheme?.reset ?? ('never' as Period),
    next: ''
  });
  const place = new InPlace(fill, ({ code, next: begin, ...body }) => {
    const given = { ...body, ...(begin.trim() ? { next: typedWhole(begin) } : {}) };
    return putRecord('numbering-schemes', code, given, scheme?.tag ?? null);
  });
  place.change();
  // What is kept is read for the moment until the editor is gone.
  const form = $derived(place.form ?? fill());
  let editor: HTMLFormElement;
  $effect(() => {
    void tick().then(() => editor.querySelector<HTMLElement>('input:not([disabled])')?.focus());
  });

  const given = $derived(scheme?.last ?? 0);
  const count = $derived(/^[1-9]\d{0,14}$/.test(form.next.trim()) ? Number(form.next) : given + 1);
  const faults = $derived(schemeFaults(form));
  const next = $derived(
    Array.from({ length: 5 }, (_, index) => makeNumber(form, occasion, count + index))
  );
  const longest = $derived(next.findLast((one) => one.ok));
  const misfit = $derived(longest?.ok ? gs1Misfit(longest.number) : null);

  async function keep(): Promise<void> {
    if (await place.keep()) onclose();
  }
  const move = (index: number, by: -1 | 1): void => {
    form.segments = moved(form.segments, index, by);
  };
</script>

<form
  bind:this={editor}
  aria-label={scheme ? `Change ${scheme.code}` : 'New scheme'}
  onsubmit={(event) => {
    event.preventDefault();
    void keep();
  }}
>
  <div class="edit">
    <OtherErrors refusal={place.refusal} known={['code', 'name', 'next']} />
    <div class="form-fields">
      <TextField
        label="Code"
        number
        most={60}
        disabled={scheme !== null}
        bind:value={form.code}
        error={fieldError(place.refusal, 'code')}
      />
      <TextField label="Name" bind:value={form.name} error={fieldError(place.refusal, 'name')} />
      <ChoiceField label="Its counter" bind:value={form.reset} choices={RESETS} />
      <TextField
        label="The next count"
        keys="numeric"
        most={15}
        bind:value={form.next}
        hint="Empty: {sayQuantity(
          String(given + 1)
        )}. Begin where your old system stopped; it only goes up"
        error={fieldError(place.refusal, 'next')}
      />
    </div>
    <h2>A number is made of</h2>
    <ol>
      {#each form.segments as segment, index (index)}
        <li>
          <SegmentEditor
            {segment}
            at={index + 1}
            onchange={(changed) => {
              form.segments = form.segments.with(index, changed);
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
                form.segments = form.segments.toSpliced(index, 1);
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
            form.segments = [...form.segments, { kind: 'text', text: '-' }];
          }}>Add a part</button
        >
      </li>
    </ol>
    <div class="acts">
      <button
        class="act main"
        disabled={place.busy ||
          faults.length > 0 ||
          form.code.trim() === '' ||
          form.name.trim() === ''}>Keep {form.code || 'scheme'}</button
      ><button type="button" class="act" onclick={() => place.leave() && onclose()}>Leave it</button
      >
    </div>
  </div>
  <aside aria-live="polite">
    <h2>The next five</h2>
    {#each next as one, index (index)}<p class="number next" class:stop={!one.ok}>
        {one.ok ? one.number : one.why}
      </p>{/each}
    {#each faults as fault (fault)}<p class="stop small">{fault}</p>{/each}
    {#if misfit}<p class="mind small">
        Would not fit a GS1 symbol: {misfit}.
      </p>{:else if faults.length === 0}<p class="good small">✓ fits a GS1 symbol</p>{/if}
    <p class="soft small">
      Shown for {occasion.product} at {occasion.site}, today, shift {occasion.shift}. {sayQuantity(
        String(given)
      )} given so far in this period.
    </p>
  </aside>
</form>

<style>
  form {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 270px;
    gap: 24px;
    padding: 16px 18px;
    border-top: 3px solid var(--brass);
    background: var(--paper);
  }
  .edit {
    display: grid;
    gap: 12px;
    align-content: start;
  }
  h2 {
    font-size: 13px;
    color: var(--ink-soft);
  }
  /* Wide enough for when a counter begins anew. */
  .form-fields {
    grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
  }
  li {
    display: grid;
    grid-template-rows: 1fr auto;
    align-items: start;
    gap: 4px;
    border: 1px solid var(--line);
    background: var(--panel);
    padding: 8px 10px;
  }
  li.add {
    border: 0;
    background: none;
    align-items: center;
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
