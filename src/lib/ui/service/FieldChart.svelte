<!-- Failures per thousand units that reached a month since dispatch, as bars; the same as a table for who cannot see them. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';

  interface Month {
    month: number;
    exposed: number;
    failed: number;
    perThousand: number;
  }
  let { months }: { months: readonly Month[] } = $props();
  let canvas: HTMLCanvasElement;
  let chart: Chart | undefined;
  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);
  const rounded = (n: number): number => Math.round(n * 10) / 10;
  const content = () => ({
    labels: months.map(({ month }) => String(month + 1)),
    datasets: [{ data: months.map((one) => rounded(one.perThousand)), backgroundColor: '#85520A' }]
  });
  onMount(() => {
    chart = new Chart(canvas, {
      type: 'bar',
      data: content(),
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
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
      }
    });
    return () => chart?.destroy();
  });
  $effect(() => {
    const next = content();
    if (chart) {
      chart.data = next;
      chart.update();
    }
  });
</script>

{#if months.length === 0}<p class="soft">Nothing has been sold that could have failed.</p>{/if}
<div class="canvas" class:empty={months.length === 0}>
  <canvas bind:this={canvas} aria-hidden="true"></canvas>
</div>
<table class="visually-hidden">
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

<style>
  .canvas {
    position: relative;
    height: 190px;
  }
  .empty {
    display: none;
  }
</style>
