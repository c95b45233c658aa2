<!-- One part of a bill being changed; what only some parts have is folded away until it is needed. -->
<script lang="ts">
  import { PER } from '../../../core/catalogue/bill.ts';
  import type { Choice } from '../../../core/catalogue/choice.ts';
  import CodeField from '../../parts/CodeField.svelte';
  import TextField from '../../parts/TextField.svelte';
  import { partOf, type PartLine } from './bill-form.ts';
  import { FOLLOW_CHOICES, sayRare } from './say-bill.ts';

  interface Props {
    line: PartLine;
    /** Which part of the bill it is, from 1. */
    nth: number;
    /** The product it names, where that is known. */
    known: Choice | undefined;
    error: string;
    onchoice: (choice: Choice | null) => void;
    onremove: () => void;
  }
  let { line = $bindable(), nth, known, error, onchoice, onremove }: Props = $props();
  const rare = $derived(sayRare(partOf(line)));
</script>

<li class:wrong={error !== ''}>
  <CodeField
    label="Part {nth}"
    quiet
    of="product"
    bind:value={line.product}
    name={known?.name ?? ''}
    {error}
    {onchoice}
  />
  <span class="amount"
    ><input
      class="field number"
      inputmode="decimal"
      bind:value={line.quantity}
      aria-label="Quantity of part {nth}"
    /><span class="small soft">{known?.unit ?? ''}</span></span
  >
  <select class="field" bind:value={line.per} aria-label="Per unit or batch, part {nth}"
    >{#each PER as per (per)}<option value={per}>per {per}</option>{/each}</select
  >
  <select class="field" bind:value={line.follow} aria-label="How part {nth} is named"
    >{#each FOLLOW_CHOICES as [value, says] (value)}<option {value}>{says}</option>{/each}</select
  >
  <details>
    <summary aria-label="More of part {nth}">{rare.join('; ') || 'more …'}</summary>
    <div class="rare">
      <TextField label="Positions" hint="Such as left, right" bind:value={line.positions} />
      <TextField
        label="Alternates"
        number
        hint="Codes, the best first"
        bind:value={line.alternates}
      />
      <TextField label="Revision it must be of" number most={60} bind:value={line.revision} />
      <TextField
        label="Planned for scrap"
        unit="% more"
        keys="decimal"
        most={20}
        bind:value={line.scrapPercent}
      />
    </div>
  </details>
  <button type="button" class="act quiet" aria-label="Remove part {nth}" onclick={onremove}
    >✕</button
  >
</li>

<style>
  li {
    display: grid;
    grid-template-columns: minmax(190px, 1.4fr) 150px 112px 150px minmax(150px, 1fr) 48px;
    gap: 6px 10px;
    align-items: start;
    padding: 6px 8px;
    border-bottom: 1px solid #ebe5da;
  }
  .wrong {
    background: var(--rust-pale);
  }
  .field {
    width: 100%;
    min-width: 0;
  }
  .amount {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 6px;
    align-items: center;
  }
  summary {
    min-height: 40px;
    padding: 10px 0;
    cursor: pointer;
    color: var(--brass);
    font-size: 13.5px;
  }
  details[open] {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .act {
    grid-column: 6;
    padding: 0;
  }
  .rare {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(180px, 1fr));
    gap: 10px 16px;
    padding: 0 0 10px;
  }
  @media (max-width: 900px) {
    li {
      grid-template-columns: 1fr 1fr;
    }
    details,
    .act {
      grid-column: auto;
    }
  }
</style>
