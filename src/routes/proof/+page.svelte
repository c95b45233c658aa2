<script lang="ts">
  import { keyMark } from '$lib/core/seal/check-proof.ts';
  import { checkFile, type CheckedFile } from '$lib/ui/ledger/checked-file.ts';
  import { count, sayInstant } from '$lib/ui/parts/say.ts';
  import WideTable from '$lib/ui/parts/WideTable.svelte';

  let { data } = $props();
  let checked = $state.raw<CheckedFile | null>(null);
  let name = $state('');
  let refused = $state('');
  let busy = $state(false);
  const SHOWN = 500;

  const broken = $derived(checked?.events.filter(({ holds }) => !holds) ?? []);
  const holds = $derived(
    checked !== null && broken.length === 0 && checked.signed && checked.ours !== false
  );
  const listed = $derived(
    [...broken, ...(checked?.events.filter((one) => one.holds) ?? [])].slice(0, SHOWN)
  );

  async function take(file: File | undefined): Promise<void> {
    if (!file) return;
    busy = true;
    name = file.name;
    checked = await checkFile(await file.text(), data.ourKey);
    refused = checked
      ? ''
      : `${file.name} is no proof file of Earmark. Choose the file that was saved as proof.`;
    busy = false;
  }
</script>

<svelte:head><title>Check a proof · Earmark</title></svelte:head>
<div class="screen" class:alone={data.withoutFrame}>
  <h1>Is this what was booked?</h1>
  <p>
    A proof file shows that events stand in the ledger as they were sealed. It is checked here, in
    your browser: nothing of it is sent anywhere.
  </p>
  <label
    class="drop"
    ondragover={(event) => event.preventDefault()}
    ondrop={(event) => {
      event.preventDefault();
      void take(event.dataTransfer?.files[0]);
    }}
  >
    <span>{busy ? `Checking ${name} …` : 'Choose a proof file, or drop it here'}</span>
    <input
      type="file"
      accept="application/json,.json"
      onchange={(event) => take(event.currentTarget.files?.[0])}
    />
  </label>
  {#if refused}<p class="refused" role="alert">{refused}</p>{/if}
  {#if checked}
    <section class="verdict" class:holds role="status">
      <h2>
        {#if holds}✓ {count(checked.events.length, 'event')} as sealed{:else}✗ This does not hold{/if}
      </h2>
      <p>Proof of {checked.of}, from {name}.</p>
      <ul>
        <li>
          {broken.length === 0
            ? 'All that stands in the file is what was sealed.'
            : `${count(broken.length, 'event is', 'events are')} not what was sealed: ${broken
                .slice(0, 20)
                .map((one) => `event ${one.event}`)
                .join(', ')}${broken.length > 20 ? ' and more' : ''}.`}
        </li>
        <li>
          {checked.signed
            ? `The ledger of ${count(checked.head.size, 'event')} was signed ${sayInstant(checked.head.at)}.`
            : 'What the ledger came to is not signed by the key it names: the file was altered.'}
        </li>
        <li>
          The key is <b class="number">{keyMark(checked.head.key)}</b>{#if checked.ours === true},
            the key of this Earmark.{:else if checked.ours === false}, and not the key of this
            Earmark. Ask whoever gave you the file whose it is.{:else}. Compare it with what whoever
            gave you the file says theirs is.{/if}
        </li>
      </ul>
      <p class="small soft">
        A proof shows that what is in it was booked like this. That nothing was left out only the
        whole ledger can show.
      </p>
    </section>
    <WideTable of="proofs">
      <table class="plain">
        <thead
          ><tr
            ><th scope="col">Event</th><th scope="col">What</th><th scope="col">Document</th><th
              scope="col">Happened</th
            ><th scope="col">As sealed</th></tr
          ></thead
        >
        <tbody
          >{#each listed as one (one.event)}<tr class:broken={!one.holds}
              ><td class="number">{one.event}</td><td>{one.kind}</td><td class="number"
                >{one.document}</td
              ><td>{one.happenedAt ? sayInstant(one.happenedAt) : ''}</td><td
                >{one.holds ? '✓ yes' : '✗ no'}</td
              ></tr
            >{/each}</tbody
        >
      </table>
    </WideTable>
    {#if checked.events.length > SHOWN}<p class="soft small">
        {SHOWN} of {checked.events.length} are listed, those that do not hold first; all were checked.
      </p>{/if}
  {/if}
</div>

<style>
  .alone {
    max-width: 900px;
    margin: 0 auto;
    padding: 32px 24px;
  }
  .screen {
    display: grid;
    gap: 18px;
    align-content: start;
  }
  .drop {
    border: 2px dashed var(--line);
    padding: 26px;
    display: grid;
    gap: 10px;
    justify-items: start;
    background: var(--paper);
  }
  .refused {
    background: var(--rust-pale);
    color: var(--rust);
    padding: 10px 12px;
    font-weight: 600;
  }
  .verdict {
    border-left: 4px solid var(--rust);
    padding: 12px 18px;
    background: var(--rust-pale);
    display: grid;
    gap: 8px;
  }
  .verdict.holds {
    border-left-color: var(--sea);
    background: var(--paper);
  }
  h2 {
    font-size: 18px;
  }
  .holds h2 {
    color: var(--sea);
  }
  ul {
    margin: 0;
    padding-left: 18px;
    list-style: disc;
  }
  .broken {
    color: var(--rust);
    font-weight: 600;
  }
</style>
