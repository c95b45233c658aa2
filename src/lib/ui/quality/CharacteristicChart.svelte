<!-- A characteristic over lots, with its limits; the table beside says the same. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import {
    CategoryScale,
    Chart,
    LinearScale,
    LineController,
    LineElement,
    PointElement,
    Tooltip
  } from 'chart.js';

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
  let canvas: HTMLCanvasElement;
  let chart: Chart | undefined;
  Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);
  Chart.defaults.font.family = "'IBM Plex Sans', sans-serif";
  const bound = (value: number) => ({
    data: points.map(() => value),
    borderColor: '#A8321F',
    borderDash: [6, 4],
    borderWidth: 1.5,
    pointRadius: 0
  });
  const datasets = () => [
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
  ];
  onMount(() => {
    chart = new Chart(canvas, {
      type: 'line',
      data: { labels: points.map((point) => point.label), datasets: datasets() },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          x: { grid: { display: false }, ticks: { color: '#55626A' } },
          y: {
            grace: '8%',
            ticks: { color: '#55626A', callback: (value) => `${value} ${unit}` },
            grid: { color: '#ddd5c7' }
          }
        }
      }
    });
    return () => chart?.destroy();
  });
  $effect(() => {
    const next = datasets();
    if (!chart) return;
    chart.data = { labels: points.map((point) => point.label), datasets: next };
    chart.update();
  });
</script>

<div class="canvas"><canvas bind:this={canvas} aria-hidden="true"></canvas></div>

<style>
  /* The canvas keeps its old width until it is drawn anew: it must not push the page wide meanwhile. */
  .canvas {
    height: 220px;
    position: relative;
    min-width: 0;
    overflow: hidden;
  }
</style>
