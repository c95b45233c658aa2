<!-- What other firms told of goods that are no marks of ours: their events, in time order. -->
<script lang="ts">
  import Cut from '$lib/ui/parts/Cut.svelte';
  import { count, sayInstant, sayQuantity } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  const ROLE: Record<string, string> = {
    epc: 'names',
    input: 'used',
    output: 'made',
    parent: 'holds',
    child: 'in it'
  };
  const number = $derived(data.epc.split(/[/.:]/).at(-1) ?? data.epc);
  const shortOf = (epc: string): string => epc.split(/[/.:]/).at(-1) || epc;
</script>

<svelte:head><title>{number}, told by others · Earmark</title></svelte:head>
<div class="screen">
  <h1>What others told of <span class="number">{number}</span></h1>
  <p class="small soft number">{data.epc}</p>
  <Cut shown={data.told.rows.length} total={data.told.total} of="events" />
  <WideTable of="events of others">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">When</th><th scope="col">What</th><th scope="col">Where</th><th
            scope="col">Told by</th
          ><th scope="col">Goods</th></tr
        ></thead
      >
      <tbody>
        {#each data.told.rows as event (event.id)}
          <tr
            ><td>{sayInstant(event.at)}</td><td
              >{event.bizStep ?? event.type}<br /><span class="small soft">{event.type}</span></td
            ><td class="small">{event.location ?? ''}</td><td>{event.sender}</td><td
              ><ul>
                {#each event.names as one (`${one.role} ${one.epc}`)}<li class="small">
                    <span class="soft">{ROLE[one.role] ?? one.role}</span>
                    <a
                      class="number"
                      href={one.mark === null
                        ? `/outside?epc=${encodeURIComponent(one.epc)}`
                        : `/marks/${one.mark}`}
                      title={one.epc}>{shortOf(one.epc)}</a
                    >{one.quantity === null ? '' : `, ${sayQuantity(one.quantity)}`}{one.mark ===
                    null
                      ? ''
                      : ', ours'}
                  </li>{/each}
              </ul></td
            ></tr
          >
        {:else}<tr
            ><td colspan="5" class="soft"
              >Nobody has told of it. What other firms send as EPCIS events shows here by the goods
              they name.</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  {#if data.told.total > 0}<p class="small soft">
      {count(data.told.total, 'event')} as others sent them. They change nothing here; where their goods
      become ours, the trace goes on through them.
    </p>{/if}
</div>

<style>
  .screen {
    padding: 18px 24px 32px;
    display: grid;
    gap: 10px;
    align-content: start;
  }
  ul {
    display: grid;
    gap: 3px;
  }
</style>
