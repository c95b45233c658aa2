<!-- First-pass yield and time of each station, as two bar charts and a table that says the same. -->
<script lang="ts">
  import type { ChartData, ChartOptions } from 'chart.js';
  import ChartCanvas from '../parts/ChartCanvas.svelte';
  import WideTable from '../parts/WideTable.svelte';

  interface Station {
    code: string;
    name: string;
    figures: { finished: number; firstPass: number; minutes: number | null };
  }
  let { stations }: { stations: readonly Station[] } = $props();
  const share = (station: Station): number | null =>
    station.figures.finished === 0
      ? null
      : Math.round((station.figures.firstPass / station.figures.finished) * 1000) / 10;

  const bars = (values: (number | null)[], backgroundColor: string): ChartData<'bar'> => ({
    labels: stations.map((station) => station.name),
    datasets: [{ data: values, backgroundColor, maxBarThickness: 46 }]
  });
  const optionsOf = (unit: string, most: number | undefined): ChartOptions<'bar'> => ({
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
  });
  const yields = $derived(bars(stations.map(share), '#1F6B57'));
  const times = $derived(
    bars(
      stations.map((station) => station.figures.minutes),
      '#85520A'
    )
  );
</script>

<div class="charts">
  <figure>
    <figcaption>First-pass yield, last 90 days</figcaption>
    <ChartCanvas type="bar" data={yields} options={optionsOf('%', 100)} height={190} />
  </figure>
  <figure>
    <figcaption>Time from start to finish, middle of all units</figcaption>
    <ChartCanvas type="bar" data={times} options={optionsOf('min', undefined)} height={190} />
  </figure>
  <WideTable of="stations">
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
  </WideTable>
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
  @media (max-width: 900px) {
    .charts {
      grid-template-columns: minmax(0, 1fr);
    }
  }
</style>
