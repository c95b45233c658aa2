<script lang="ts">
  import { count, sayInstant } from '$lib/ui/parts/say.ts';

  let { data } = $props();
</script>

<svelte:head><title>Recall · Earmark</title></svelte:head>
<div class="screen">
  <div class="head">
    <div>
      <h1>Recalls and drills</h1>
      <p class="soft">
        Which customers have it, what lies here, and how much of it is accounted for.
      </p>
    </div>
    {#if data.mayRecall}<span class="acts"
        ><a class="act" href="/recall/new?mock=1">Start a drill</a><a
          class="act main"
          href="/recall/new">Open a case</a
        ></span
      >{/if}
  </div>
  <ul class="cases" data-list>
    {#each data.recalls.rows as one (one.number)}
      <li class={one.state}>
        <a href="/recall/{one.number}">
          <span class="top"
            ><b class="number">{one.number}</b>{#if one.mock}<span class="drill">drill</span>{/if}<b
              >{one.title}</b
            ><span class="state"
              >{one.state === 'open'
                ? 'scope not decided'
                : one.state === 'decided'
                  ? 'under way'
                  : 'closed'}</span
            ></span
          >
          <span class="small soft"
            >opened {sayInstant(one.openedAt)} by {one.who} · {count(
              one.suspects,
              'suspect'
            )}{#if one.state !== 'open'}&nbsp;· {count(
                one.customers,
                'customer'
              )}{/if}{#if one.waiting > 0}&nbsp;· <b>{one.waiting} still to answer</b>{/if}</span
          >
          {#if one.state !== 'open' && !one.mock}<span class="bar" aria-hidden="true"
              ><span style:width="{Math.round(one.part * 100)}%"></span></span
            ><span class="small">{Math.floor(one.part * 1000) / 10} % accounted for</span>{/if}
        </a>
      </li>
    {:else}<li class="none soft">
        No case has been opened. When a lot or serial is suspected, open one from its page, its
        trace, or here: Earmark finds everything made of it and everybody who has it. A drill tries
        the same with nothing really held.
      </li>{/each}
  </ul>
  {#if data.recalls.total > data.recalls.rows.length}<p class="small soft">
      The latest {data.recalls.rows.length} of {data.recalls.total} cases.
    </p>{/if}
</div>

<style>
  .screen {
    padding: 22px 26px;
    display: grid;
    gap: 16px;
    align-content: start;
    background: var(--paper);
    min-height: 100%;
  }
  .head {
    display: flex;
    flex-wrap: wrap;
    justify-content: space-between;
    gap: 12px;
    align-items: center;
  }
  .acts {
    display: flex;
    gap: 10px;
  }
  .cases {
    display: grid;
    gap: 10px;
    max-width: 980px;
  }
  .cases a {
    display: grid;
    gap: 4px;
    padding: 12px 16px;
    background: var(--panel);
    border: 1px solid var(--line);
    border-left: 5px solid var(--rust);
    color: var(--ink);
    text-decoration: none;
  }
  .cases .closed a {
    border-left-color: var(--sea);
  }
  .cases .open a {
    border-left-color: var(--brass);
  }
  .cases a:hover {
    background: var(--paper-deep);
  }
  .top {
    display: flex;
    gap: 12px;
    align-items: baseline;
    flex-wrap: wrap;
  }
  .state {
    margin-left: auto;
    font-size: 13px;
    color: var(--ink-soft);
  }
  .drill {
    background: var(--slate-pale);
    padding: 0 8px;
    font-size: 13px;
  }
  .bar {
    display: block;
    height: 6px;
    background: #e6dfd1;
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--sea);
  }
  .none {
    padding: 10px 0;
    max-width: 620px;
  }
</style>
