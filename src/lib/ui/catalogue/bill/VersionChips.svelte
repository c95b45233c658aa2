<!-- The versions of a bill, latest first: which is in force, which is shown. -->
<script lang="ts">
  import { sayDay } from '../../../core/calendar/say-day.ts';
  import { count } from '../../parts/say.ts';

  interface Props {
    versions: readonly { version: number; validFrom: string; parts: number; orders: number }[];
    /** The version in force. */
    present: number | null;
    shown: number | null;
  }
  let { versions, present, shown }: Props = $props();
</script>

<ol aria-label="Versions of the bill">
  {#each versions as one (one.version)}
    <li>
      <a
        class:on={shown === one.version}
        aria-current={shown === one.version ? 'true' : undefined}
        href="?version={one.version}"
        ><b>version {one.version}</b>{#if present === one.version}&nbsp;<span class="good"
            >in force</span
          >{/if}<br /><span class="small"
          >from {sayDay(one.validFrom)} · {count(one.parts, 'part')}{one.orders > 0
            ? ` · ${count(one.orders, 'order')}`
            : ''}</span
        ></a
      >
    </li>
  {/each}
</ol>

<style>
  ol {
    display: flex;
    gap: 8px;
    overflow-x: auto;
    padding-bottom: 4px;
  }
  a {
    display: block;
    color: var(--ink);
    text-decoration: none;
    border: 1px solid var(--line-strong);
    background: var(--panel);
    padding: 6px 12px;
    white-space: nowrap;
  }
  .on {
    border: 2px solid var(--brass);
    background: var(--brass-pale);
    padding: 5px 11px;
  }
</style>
