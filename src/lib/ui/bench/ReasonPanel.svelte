<!-- What a plan lets a booking go on with: a written reason, asked once for all faults of a kind, or a second person's word. -->
<script lang="ts">
  import { count } from '../parts/say.ts';
  import { waitForSecond, type Approval } from './approvals.ts';
  import type { Fault } from './booking-sheet.svelte.ts';
  import SecondPerson from './SecondPerson.svelte';

  interface Props {
    /** Document of the booking, which an approval is for. */
    document: string;
    faults: readonly Fault[];
    reasons: Record<string, string>;
    approvals: readonly Approval[];
    onchange: (reasons: Record<string, string>) => void;
    onapproved: (approval: Approval) => void;
  }
  let { document, faults, reasons, approvals, onchange, onapproved }: Props = $props();
  let panel = $state<HTMLElement>();

  /**
   * Puts the focus where a reason is written, where all that stops the booking waits for one.
   * @returns whether it does
   */
  export function focus(): boolean {
    const field = panel?.querySelector<HTMLInputElement>(':scope > label input');
    if (!field || faults.length === 0 || faults.some(({ answer }) => answer !== 'reason'))
      return false;
    field.focus();
    return true;
  }

  const SAYS: Record<string, string> = {
    'mark.expired': 'expired',
    'mark.held': 'held',
    'mark.rejected': 'rejected',
    'mark.off-spec': 'outside its limits',
    'fact.missing': 'without a fact that is required',
    'date.missing': 'without its date',
    'mark.missing': 'without its number',
    'mark.reserved': 'promised to somebody',
    'wish.unmet': 'not as the customer wishes',
    'time.order': 'earlier than what it takes'
  };
  const seconds = $derived(waitForSecond(faults).length > 0 || approvals.length > 0);
  /** Kinds that wait for a reason, and those a reason stands for already. */
  const kinds = $derived([
    ...new Set([
      ...faults.filter((fault) => fault.answer === 'reason').map((fault) => fault.code),
      ...Object.keys(reasons).filter((code) => reasons[code]?.trim())
    ])
  ]);
</script>

{#if kinds.length > 0 || seconds}
  <div class="reasons" role="group" aria-label="Reasons" bind:this={panel}>
    {#if seconds}<SecondPerson {document} {faults} {approvals} {onapproved} />{/if}
    {#each kinds as code (code)}
      {@const waiting = faults.filter(
        (fault) => fault.code === code && fault.answer === 'reason'
      ).length}
      <label>
        <span
          ><b
            >{waiting > 0
              ? `${count(waiting, 'row')} ${SAYS[code] ?? code}.`
              : `Rows ${SAYS[code] ?? code} go on.`}</b
          >
          {waiting > 0
            ? 'The plan lets them go on with a reason, kept for ever:'
            : 'Your reason, kept for ever:'}</span
        >
        <input
          class="field"
          value={reasons[code] ?? ''}
          maxlength="2000"
          oninput={(event) => onchange({ ...reasons, [code]: event.currentTarget.value })}
        />
      </label>
    {/each}
  </div>
{/if}

<style>
  .reasons {
    margin: 8px 18px 0;
    padding: 10px 14px;
    background: var(--amber);
    border-left: 3px solid #b98512;
    display: grid;
    gap: 10px;
    font-size: 14px;
  }
  label {
    display: grid;
    gap: 4px;
  }
  input {
    width: 100%;
    background: var(--panel);
  }
</style>
