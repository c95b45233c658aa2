<!-- A characteristic over lots, with its limits; the table beside says the same. -->
<script lang="ts">
  import type { ChartOptions } from 'chart.js';
  import ChartCanvas from '../parts/ChartCanvas.svelte';

  interface Point {
    label: string;
    value: number;
    good: boolean;
  }
  let {
    points,
    unit,
    least,
    most
  }: { points: readonly Point[]; unit: string; least: number | null; most: number | null } =
    $props();
  const bound = (value: number) => ({
    data: points.map(() => value),
    borderColor: '#A8321F',
    borderDash: [6, 4],
    borderWidth: 1.5,
    pointRadius: 0
  });
  const datasets = $derived([
    {
      data: points.map((point) => point.value),
      borderColor: '#85520A',
      borderWidth: 1.5,
      pointRadius: 5,
      pointBackgroundColor: points.map((point) => (point.good ? '#1F6B57' : '#A8321F')),
      pointStyle: points.map((point) => (point.good ? 'circle' : 'rectRot'))
    },
    ...(least === null ? [] : [bound(least)]),
    ...(most === null ? [] : [bound(most)])
  ]);
  const content = $derived({ labels: points.map((point) => point.label), datasets });
  const options: ChartOptions<'line'> = $derived({
    plugins: { legend: { display: false } },
    scales: {
      x: { grid: { display: false }, ticks: { color: '#55626A' } },
      y: {
        grace: '8%',
        ticks: { color: '#55626A', callback: (value) => `${value} ${unit}` },
        grid: { color: '#ddd5c7' }
      }
    }
  });
</script>

<ChartCanvas type="line" data={content} {options} height={220} />
