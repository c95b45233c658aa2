<!-- A count by day as a small line, with its first, highest and last said in words. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import {
    CategoryScale,
    Chart,
    Filler,
    LinearScale,
    LineController,
    LineElement,
    PointElement
  } from 'chart.js';
  import { sayDay } from '../../core/calendar/say-day.ts';

  let { points }: { points: readonly { day: string; count: number }[] } = $props();
  let canvas: HTMLCanvasElement;
  let chart: Chart | undefined;
  Chart.register(LineController, LineElement, PointElement, LinearScale, CategoryScale, Filler);
  const content = () => ({
    labels: points.map((point) => sayDay(point.day)),
    datasets: [
      {
        data: points.map((point) => point.count),
        borderColor: '#85520A',
        backgroundColor: 'rgb(133 82 10 / 12%)',
        fill: true,
        borderWidth: 2,
        pointRadius: points.length < 2 ? 3 : 0,
        tension: 0.2
      }
    ]
  });
  onMount(() => {
    chart = new Chart(canvas, {
      type: 'line',
      data: content(),
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          x: { display: false },
          y: {
            beginAtZero: true,
            ticks: { color: '#55626A', precision: 0, maxTicksLimit: 4 },
            grid: { color: '#ddd5c7' }
          }
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
  const last = $derived(points.at(-1)),
    first = $derived(points[0]);
</script>

<div class="canvas"><canvas bind:this={canvas} aria-hidden="true"></canvas></div>
<p class="small soft">
  {#if first && last && first !== last}{last.count} now, {first.count} on {sayDay(first.day)}, {Math.max(
      ...points.map((point) => point.count)
    )} at the most{:else if last}{last.count} today; the line grows day by day{:else}not looked over
    yet{/if}
</p>

<style>
  .canvas {
    height: 84px;
    position: relative;
    min-width: 0;
    overflow: hidden;
  }
</style>
