<!-- First-pass yield and time of each station, as two bar charts and a table that says the same. -->
<script lang="ts">
  import { onMount } from 'svelte';
  import { BarController, BarElement, CategoryScale, Chart, LinearScale, Tooltip } from 'chart.js';

  interface Station {
    code: string;
    name: string;
    figures: { finished: number; firstPass: number; minutes: number | null };
  }
  let { stations }: { stations: readonly Station[] } = $props();
  let yields: HTMLCanvasElement, times: HTMLCanvasElement;
  let charts: Chart[] = [];
  const share = (station: Station): number | null =>
    station.figures.finished === 0
      ? null
      : Math.round((station.figures.firstPass / station.figures.finished) * 1000) / 10;

  Chart.defaults.font.family = "'IBM Plex Sans', sans-serif";
  Chart.register(BarController, BarElement, CategoryScale, LinearScale, Tooltip);

  function draw(
    canvas: HTMLCanvasElement,
    data: (number | null)[],
    colour: string,
    most: number | undefined,
    unit: string
  ): Chart {
    return new Chart(canvas, {
      type: 'bar',
      data: {
        labels: stations.map((station) => station.name),
        datasets: [{ data, backgroundColor: colour, maxBarThickness: 46 }]
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        plugins: {
          legend: { display: false },
          tooltip: { callbacks: { label: (item) => `${item.formattedValue} ${unit}` } }
        },
        scales: {
          x: { grid: { display: false }, ticks: { color: '#55626A' } },
          y: {
            beginAtZero: true,
            max: most,
            ticks: { color: '#55626A', callback: (value) => `${value} ${unit}` },
            grid: { color: '#ddd5c7' }
          }
        }
      }
    });
  }
  onMount(() => {
    charts = [
      draw(yields, stations.map(share), '#1F6B57', 100, '%'),
      draw(
        times,
        stations.map((station) => station.figures.minutes),
        '#85520A',
        undefined,
        'min'
      )
    ];
    return () => charts.forEach((chart) => chart.destroy());
  });
  $effect(() => {
    const next = [stations.map(share), stations.map((station) => station.figures.minutes)];
    charts.forEach((chart, index) => {
      chart.data.labels = stations.map((station) => station.name);
      chart.data.datasets[0]!.data = next[index]!;
      chart.update();
    });
  });
</script>

<div class="charts">
  <figure>
    <figcaption>First-pass yield, last 90 days</figcaption>
    <div class="canvas"><canvas bind:this={yields} aria-hidden="true"></canvas></div>
  </figure>
  <figure>
    <figcaption>Time from start to finish, middle of all units</figcaption>
    <div class="canvas"><canvas bind:this={times} aria-hidden="true"></canvas></div>
  </figure>
  <table class="plain">
    <thead
      ><tr
        ><th scope="col">Station</th><th scope="col" class="right">Finished</th><th
          scope="col"
          class="right">At first go</th
        ><th scope="col" class="right">Time</th></tr
      ></thead
    >
    <tbody
      >{#each stations as station (station.code)}<tr
          ><td>{station.name}</td><td class="right number">{station.figures.finished}</td><td
            class="right number">{share(station) === null ? '–' : `${share(station)} %`}</td
          ><td class="right number"
            >{station.figures.minutes === null
              ? '–'
              : `${Math.round(station.figures.minutes)} min`}</td
          ></tr
        >{/each}</tbody
    >
  </table>
</div>

<style>
  .charts {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(260px, 0.9fr);
    gap: 24px;
    align-items: start;
  }
  figcaption {
    font-size: 14px;
    font-weight: 600;
    margin-bottom: 6px;
  }
  .canvas {
    height: 190px;
    position: relative;
  }
  @media (max-width: 900px) {
    .charts {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
