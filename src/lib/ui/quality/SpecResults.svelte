<!-- What was measured of a product, one characteristic at a time: as a chart, and the latest as a list. -->
<script lang="ts">
  import { judge, type Limit, type Result } from '../../core/quality/spec.ts';
  import Cut from '../parts/Cut.svelte';
  import { sayInstant } from '../parts/say.ts';
  import CharacteristicChart from './CharacteristicChart.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface TestOf {
    test: number;
    mark: number;
    number: string;
    takenAt: string;
    signed: boolean;
    results: readonly Result[];
  }
  interface Props {
    limits: readonly Limit[];
    tests: { rows: readonly TestOf[]; total: number };
  }
  let { limits, tests }: Props = $props();
  let shown = $state('');
  const numbers = $derived(limits.filter((limit) => limit.kind === 'number'));
  const charted = $derived(numbers.find((limit) => limit.name === shown) ?? numbers[0]);
  /** The latest results stand in the table; the chart has them all. */
  const LISTED = 30;
  const results = $derived(charted ? tests.rows.flatMap((test) => resultOf(test, charted)) : []);

  function resultOf(test: TestOf, limit: Limit) {
    const result = test.results.find((one) => one.name.toUpperCase() === limit.name.toUpperCase());
    if (!result) return [];
    return [{ ...test, value: result.value, verdict: judge(limit, result).verdict }];
  }
</script>

{#if charted}
  <section>
    <h2>
      {charted.name} over lots{#if numbers.length > 1}<select
          class="field"
          value={charted.name}
          onchange={(event) => (shown = event.currentTarget.value)}
          aria-label="Characteristic of the chart"
          >{#each numbers as limit (limit.name)}<option>{limit.name}</option>{/each}</select
        >{/if}
    </h2>
    {#if results.length > 0}
      <Cut shown={tests.rows.length} total={tests.total} of="tests" rest="the latest" />
      <CharacteristicChart
        points={results.map((one) => ({
          label: one.number,
          value: Number(one.value),
          good: one.verdict === 'conforms'
        }))}
        unit={charted.unit}
        least={charted.least === null ? null : Number(charted.least)}
        most={charted.most === null ? null : Number(charted.most)}
      />
      <WideTable of="results">
        <table class="plain">
          <thead
            ><tr
              ><th scope="col">Mark</th><th scope="col">Tested</th><th scope="col" class="right"
                >{charted.name}</th
              ><th scope="col">Verdict</th></tr
            ></thead
          >
          <tbody
            >{#each results.toReversed().slice(0, LISTED) as one (one.test)}<tr
                ><td><a class="number" href="/marks/{one.mark}">{one.number}</a></td><td
                  >{sayInstant(one.takenAt)}{one.signed ? '' : ', not signed off'}</td
                ><td class="right number">{one.value} {charted.unit}</td><td
                  class:good={one.verdict === 'conforms'}
                  class:stop={one.verdict !== 'conforms'}>{one.verdict}</td
                ></tr
              >{/each}</tbody
          >
        </table>
      </WideTable>
      <Cut
        shown={Math.min(LISTED, results.length)}
        total={results.length}
        of="results"
        rest="the latest"
      />
    {:else}<p class="soft">
        Nothing of it was tested yet. Tests are recorded on the page of a lot or serial.
      </p>{/if}
  </section>
{/if}

<style>
  h2 {
    font-size: 15px;
    color: var(--ink);
    display: flex;
    gap: 12px;
    align-items: center;
    margin-top: 10px;
  }
  section {
    display: grid;
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
</style>
