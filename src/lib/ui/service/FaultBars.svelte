<!-- How many jobs share something, as bars; each leads to what its units share upstream. -->
<script lang="ts">
  import type { FaultGroup } from '../../core/service/fault-group.ts';

  interface Props {
    title: string;
    groups: readonly FaultGroup[];
  }
  let { title, groups }: Props = $props();
  const most = $derived(Math.max(1, ...groups.map((group) => group.jobs)));
  /** As many units as an address holds. */
  const LINKED = 200;
  const shared = (serials: readonly string[]): string =>
    `/trace/common?units=${encodeURIComponent(serials.slice(0, LINKED).join(' '))}`;
</script>

<section>
  <h2>{title}</h2>
  {#each groups as group (group.says)}
    <a href={shared(group.serials)} title="What do they share?">
      <span class="says">{group.says}</span>
      <span class="bar" style:width="{(group.jobs / most) * 100}%" aria-hidden="true"></span>
      <span class="number">{group.jobs}</span>
    </a>
  {:else}<p class="soft">Nothing to show.</p>{/each}
</section>

<style>
  section {
    display: grid;
    gap: 4px;
    align-content: start;
  }
  a {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 34px;
    gap: 2px 10px;
    color: var(--ink);
    text-decoration: none;
    padding: 4px 0;
  }
  a:hover .says {
    text-decoration: underline;
  }
  .says {
    grid-column: 1 / -1;
    overflow-wrap: anywhere;
  }
  .bar {
    height: 12px;
    background: var(--brass);
    align-self: center;
  }
  .number {
    text-align: right;
  }
</style>
