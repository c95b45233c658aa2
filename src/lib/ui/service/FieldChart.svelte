<!-- Failures per thousand units that reached a month since dispatch, as bars; the same as a table for who cannot see them. -->
<script lang="ts">
  import type { ChartOptions } from 'chart.js';
  import type { FieldMonth } from '../../core/service/field-figures.ts';
  import ChartCanvas from '../parts/ChartCanvas.svelte';

  let { months }: { months: readonly FieldMonth[] } = $props();
  const rounded = (n: number): number => Math.round(n * 10) / 10;
  const content = $derived({
    labels: months.map(({ month }) => String(month + 1)),
    datasets: [{ data: months.map((one) => rounded(one.perThousand)), backgroundColor: '#85520A' }]
  });
  const options: ChartOptions<'bar'> = {
    plugins: {
      tooltip: {
        callbacks: {
          title: ([item]) => `month ${item!.label}`,
          label: (item) => {
            const { failed, exposed } = months[item.dataIndex]!;
            return `${item.formattedValue} in 1,000: ${failed} of ${exposed}`;
          }
        }
      }
    },
    scales: {
      x: { ticks: { color: '#55626A' }, grid: { display: false } },
      y: { beginAtZero: true, ticks: { color: '#55626A' }, grid: { color: '#ddd5c7' } }
    }
  };
</script>

{#if months.length === 0}<p class="soft">
    Nothing has been sold that could have failed.
  </p>{:else}<ChartCanvas type="bar" data={content} {options} height={190} />{/if}
<div class="visually-hidden">
  <table>
    <thead
      ><tr
        ><th scope="col">Month since dispatch</th><th scope="col">Units that reached it</th><th
          scope="col">Failed in it</th
        ><th scope="col">Per thousand</th></tr
      ></thead
    >
    <tbody>
      {#each months as one (one.month)}<tr
          ><td>{one.month + 1}</td><td>{one.exposed}</td><td>{one.failed}</td><td
            >{rounded(one.perThousand)}</td
          ></tr
        >{/each}
    </tbody>
  </table>
</div>
