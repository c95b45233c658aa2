<!-- What was tested of a lot or serial, the verdicts by everybody's limits, a new test, and the second person's signature. -->
<script lang="ts">
  import type { Snippet } from 'svelte';
  import { refresh } from '../frame/refresh.ts';
  import type { MarkQuality, TestRecord } from '../../core/quality/mark-quality.ts';
  import { messagesOf, send } from '../frame/api.ts';
  import { sayInstant } from '../parts/say.ts';
  import TestDialog from './TestDialog.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Props {
    mark: { product: string; kind: string; number: string | null };
    quality: MarkQuality;
    mayTest: boolean;
    /** What else may be done with its tests. */
    acts?: Snippet;
  }
  let { mark, quality, mayTest, acts }: Props = $props();
  let testing = $state(false);
  let told = $state('');
  let refused = $state.raw<string[]>([]);

  type Whose = MarkQuality['verdicts'][number];
  const named = (one: Whose): string => (one.whose ? `for ${one.whose}` : 'by the product’s spec');
  /** Why it is not good: what fails, and what is asked and not tested yet. */
  const reasonsOf = (one: Whose): string =>
    one.judged
      .filter(
        ({ verdict, limit }) => verdict !== 'conforms' && (verdict !== 'untested' || limit.required)
      )
      .map((limit) => limit.why)
      .join('; ');
  const byOlderSpec = ({ specVersion }: TestRecord): string =>
    specVersion === null || specVersion === quality.presentVersion
      ? ''
      : `, by spec version ${specVersion}; judged by version ${quality.presentVersion} now`;

  async function sign(id: number): Promise<void> {
    const reply = await send('POST', `/api/v1/tests/${id}/signature`);
    refused = reply.ok ? [] : messagesOf(reply.refusal);
    if (reply.ok) await refresh();
  }
</script>

<h2>Tests <span>{quality.tests.length}</span></h2>
{#if told}<p class="told" role="status">{told}</p>{/if}
{#each refused as message, index (index)}<p class="refused" role="alert">{message}</p>{/each}
<p class="verdicts">
  {#each quality.verdicts as one (one.whose)}<span
      class:good={one.verdict === 'conforms'}
      class:stop={one.verdict === 'does not conform'}
      ><b>{one.verdict}</b>
      {named(one)}{#if reasonsOf(one)}: {reasonsOf(one)}{/if}</span
    >{/each}
</p>
<div class="acts">
  {#if mayTest}<button class="act" onclick={() => (testing = true)}>Record a test …</button>{/if}
  {@render acts?.()}
</div>
{#if quality.tests.length > 0}
  <WideTable of="tests">
    <table class="plain">
      <thead
        ><tr
          ><th scope="col">Tested</th><th scope="col">Results</th><th scope="col">With</th><th
            scope="col">Signed off</th
          ></tr
        ></thead
      >
      <tbody
        >{#each quality.tests.toReversed() as test (test.id)}<tr
            ><td
              >{sayInstant(test.takenAt)}<br /><span class="small soft"
                >{test.who}{byOlderSpec(test)}</span
              ></td
            ><td
              >{#each test.results as result, index (result.name)}{index > 0
                  ? ', '
                  : ''}{result.name}
                <b class="number">{result.value}</b>
                {result.unit}{/each}{#if test.note}<br /><span class="small soft">{test.note}</span
                >{/if}</td
            ><td class="small">{[test.instrument, test.sample].filter(Boolean).join(' · ')}</td><td
              class="small"
              >{#if test.signedBy !== null}checked by {test.signedBy}{:else if mayTest && !test.own}<button
                  class="act"
                  onclick={() => sign(test.id)}>Sign off</button
                >{:else}waits for a second person{/if}</td
            ></tr
          >{/each}</tbody
      >
    </table>
  </WideTable>
{/if}
{#if testing}<TestDialog
    {mark}
    limits={quality.asked}
    sampling={quality.sampling}
    onclose={() => (testing = false)}
    ondone={(says) => {
      testing = false;
      told = says;
      void refresh();
    }}
  />{/if}

<style>
  h2 {
    margin-bottom: 8px;
  }
  h2 span {
    color: var(--brass);
  }
  .verdicts {
    display: grid;
    gap: 2px;
    margin-bottom: 6px;
  }
  .told {
    background: var(--slate-pale);
    padding: 8px 12px;
    margin-bottom: 8px;
  }
  .acts {
    display: flex;
    gap: 10px;
    flex-wrap: wrap;
    margin-bottom: 8px;
  }
</style>
