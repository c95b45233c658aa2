<!-- A count by day as a small line, with its first, highest and last said in words. -->
<script lang="ts">
  import type { ChartOptions } from 'chart.js';
  import ChartCanvas from './ChartCanvas.svelte';
  import { sayDay } from '../../core/calendar/say-day.ts';

  let { points }: { points: readonly { day: string; count: number }[] } = $props();
  const content = $derived({
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
  const options: ChartOptions<'line'> = {
    plugins: { legend: { display: false }, tooltip: { enabled: false } },
    scales: {
      x: { display: false },
      y: {
        beginAtZero: true,
        ticks: { color: '#55626A', precision: 0, maxTicksLimit: 4 },
        grid: { color: '#ddd5c7' }
      }
    }
  };
  const last = $derived(points.at(-1)),
    first = $derived(points[0]);
</script>

<ChartCanvas type="line" data={content} {options} height={84} />
<p class="small soft">
  {#if first && last && first !== last}{last.count} now, {first.count} on {sayDay(first.day)}, {Math.max(
      ...points.map((point) => point.count)
    )} at the most{:else if last}{last.count} today; the line grows day by day{:else}not looked over
    yet{/if}
</p>
