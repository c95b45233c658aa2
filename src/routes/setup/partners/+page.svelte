<script lang="ts">
  import NewPartner from '$lib/ui/catalogue/partner/NewPartner.svelte';
  import ListPages from '$lib/ui/parts/ListPages.svelte';
  import NarrowField from '$lib/ui/parts/NarrowField.svelte';
  import { count } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let adding = $state(false);
</script>

<svelte:head><title>Partners · Setup · Earmark</title></svelte:head>
<div class="setup">
  <div class="head">
    <h1>Partners</h1>
    <NarrowField
      q={data.q}
      placeholder="Only code or name …"
      label="Only partners that hold this text"
      path="/setup/partners"
    />{#if data.mayEdit}<button class="act main" onclick={() => (adding = true)}>New partner</button
      >{/if}
  </div>
  <WideTable of="partners">
    <table class="plain middle">
      <thead
        ><tr
          ><th scope="col">Code</th><th scope="col">Name</th><th scope="col">Is</th><th scope="col"
            >GLN</th
          ><th scope="col" class="right">In the ledger</th></tr
        ></thead
      >
      <tbody data-list>
        {#each data.rows as partner (partner.code)}
          <tr
            ><td class="number"
              ><a href="/partners/{encodeURIComponent(partner.code)}"><b>{partner.code}</b></a></td
            ><td>{partner.name}</td><td
              >{[partner.supplier && 'supplier', partner.customer && 'customer']
                .filter(Boolean)
                .join(', ') || 'neither'}</td
            ><td class="number">{partner.gln ?? ''}</td><td class="right"
              >{count(partner.events, 'event')}</td
            ></tr
          >
        {:else}<tr
            ><td colspan="5" class="soft"
              >No partner yet, or none that holds that text. Suppliers and customers are set up
              here.</td
            ></tr
          >{/each}
      </tbody>
    </table>
  </WideTable>
  <ListPages page={data} of="partners" path="/setup/partners" />
</div>
{#if adding}<NewPartner onclose={() => (adding = false)} />{/if}
