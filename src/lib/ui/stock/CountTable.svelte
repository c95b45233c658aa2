<!-- The numbers of one place, each with what was counted of it. -->
<script lang="ts">
  import type { CountLine } from '../../core/stock/count-line.ts';
  import { sayQuantity, sayTime } from '../parts/say.ts';
  import { differsFrom, sayOff, sayWhyMore } from './count-verdict.ts';
  import { countKey, type Counting, type Entered } from './counting.svelte.ts';
  import Tag from './Tag.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    lines: readonly CountLine[];
    /** Typed here, and not in the list yet. */
    added: readonly Entered[];
    work: Counting;
    /** What should lie there is not shown. */
    hidden: boolean;
    mayCount: boolean;
    /** Said where there is no line. */
    none: string;
    onenter: (line: CountLine, typed: string) => void;
  }
  let { lines, added, work, hidden, mayCount, none, onenter }: Props = $props();
  const isOff = (line: CountLine) => !hidden && differsFrom(line);
</script>

<WideTable of="lines of the count">
  <table class="plain middle">
    <thead
      ><tr
        ><th scope="col">Lot or serial</th>{#if !hidden}<th scope="col" class="right"
            >By the ledger</th
          >{/if}<th scope="col" class="right">Counted</th><th scope="col">Verdict</th></tr
      ></thead
    >
    <tbody>
      {#each added as { line, quantity, fault } (countKey(line))}<tr class="found">
          <td
            ><b class="number">{line.serial ?? line.lot ?? line.product}</b>
            <span class="soft small">{line.product}</span></td
          >{#if !hidden}<td></td>{/if}<td class="right number">{quantity}</td><td
            >{#if fault}<span class="stop">{fault}</span>
              <button class="act quiet" onclick={() => work.drop(line)}>Leave it out</button
              >{:else}on its way …{/if}</td
          >
        </tr>{/each}
      {#each lines as line (countKey(line))}
        {@const typed = work.entered.get(countKey(line))}
        {@const name = line.serial ?? line.lot ?? line.product}
        <tr class:off={isOff(line)}>
          <td
            ><Tag
              kind={line.kind}
              number={line.serial ?? line.lot}
              under="{line.product} {line.name}{line.serial && line.lot
                ? ` · lot ${line.lot}`
                : ''}"
              href={line.mark === null ? undefined : `/marks/${line.mark}`}
            /></td
          >{#if !hidden}<td class="right"
              ><span class="number">{sayQuantity(line.expected)}</span>
              <span class="small soft">{line.unit}</span></td
            >{/if}
          <td class="right"
            >{#if mayCount}<input
                class="field number amount"
                inputmode="decimal"
                data-line={countKey(line)}
                aria-label="Counted of {name}"
                value={work.countedOf(line) ?? ''}
                aria-invalid={typed?.fault != null}
                onchange={(event) => onenter(line, event.currentTarget.value)}
              />{:else}<span class="number">{line.counted ?? '–'}</span>{/if}</td
          >
          <td class="small">
            {#if typed?.fault}<span class="stop">{typed.fault}</span>
            {:else if typed}on its way …
            {:else if line.counted === null}<span class="soft">not counted</span>
            {:else}
              {#if isOff(line)}<b class="stop">{sayOff(line)}</b> {sayWhyMore(line)}
              {:else if !hidden}<span class="good">right</span>{/if}
              <span class="soft">{line.by}, {sayTime(line.at!)}</span>
            {/if}
          </td>
        </tr>
      {:else}
        {#if added.length === 0}<tr><td colspan="4" class="soft">{none}</td></tr>{/if}
      {/each}
    </tbody>
  </table>
</WideTable>

<style>
  .amount {
    width: 104px;
    min-height: 44px;
    text-align: right;
  }
  tr.off {
    background: var(--rust-pale);
  }
  @media (max-width: 700px) {
    thead {
      display: none;
    }
    table,
    tbody {
      display: block;
    }
    tr {
      display: flex;
      flex-wrap: wrap;
      justify-content: space-between;
      gap: 2px 8px;
      align-items: center;
      padding: 8px 0;
      border-bottom: 1px solid var(--line);
    }
    td {
      display: block;
      border: 0 !important;
      padding: 0 4px;
    }
    td:first-child,
    td:last-child {
      flex-basis: 100%;
    }
  }
</style>
