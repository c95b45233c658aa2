<!-- What a sheet of the dock says while there is no line: what waits, what was typed here, what can be left here. -->
<script lang="ts" generics="Body extends object">
  import { sayTime } from '../parts/say.ts';
  import type { DockSheet } from './dock-sheet.svelte.ts';

  interface Props {
    dock: DockSheet<Body>;
    /** Whether a booking was sent and nobody answered. */
    unreachable: boolean;
    /** Faults that are known here already. */
    faults: number;
    onleave: () => void;
    ontake: (body: Body, key: string) => void;
  }
  let { dock, unreachable, faults, onleave, ontake }: Props = $props();
</script>

{#if dock.waits}
  <div class="note" role="status">
    <p>
      <b>Left on this device at {sayTime(dock.waits.at)}.</b> It is booked when the line is back, once,
      however often it is sent. Leave this sheet if you wish; do not sign out before.
    </p>
    <button class="act" onclick={() => void dock.changeAgain()}>Change it</button>
  </div>
{:else if unreachable}
  <div class="note">
    {#if faults === 0}
      <p>Nobody has it yet. Leave it on this device, and it is booked when the line is back.</p>
      <button class="act main" onclick={onleave}>Book when the line is back</button>
    {:else}
      <p>
        {faults === 1 ? 'A fault is' : `${faults} faults are`} known here already and would have it come
        back to you. Mend {faults === 1 ? 'it' : 'them'} first.
      </p>
      <button class="act quiet" onclick={onleave}>Leave it here all the same</button>
    {/if}
  </div>
{/if}
{#if dock.other}
  <div class="note" role="status">
    <p>
      More was typed on this device when there was no line, and the sheet was changed elsewhere
      since.
    </p>
    <button
      class="act"
      onclick={() => {
        ontake(dock.other!.body, dock.other!.key);
        dock.other = null;
      }}>Show what was typed here</button
    >
    <button
      class="act quiet"
      onclick={() => {
        dock.other = null;
        void dock.onServer();
      }}>Keep the sheet as it is</button
    >
  </div>
{/if}

<style>
  .note {
    display: flex;
    flex-wrap: wrap;
    gap: 8px 14px;
    align-items: center;
    margin: 8px 18px 0;
    padding: 10px 14px;
    background: var(--amber);
    font-size: 14px;
  }
  .note p {
    flex: 1 1 280px;
  }
</style>
