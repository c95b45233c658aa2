import { holm, surprise } from './hypergeometric.ts';

/** Something units may share: a mark upstream, a supplier, a place, a person, a station, a day. */
export interface Source {
  key: string;
  kind: 'mark' | 'supplier' | 'place' | 'person' | 'station' | 'day';
  says: string;
  /** How many of the troubled, and of the whole population, have it. */ troubled: number;
  population: number;
}

export interface RankedSource extends Source {
  /** Part of the troubled that have it, and of all others: 0…1. */
  coverage: number;
  background: number;
  /**
   * Probability that so many or more of the troubled have it by chance, and the same corrected for
   * all that was looked at.
   */
  chance: number;
  corrected: number;
  /** Whether it stands out: corrected below one in a hundred. */
  standsOut: boolean;
}

/** Corrected chance below which a source is said to stand out. */
export const STANDS_OUT = 0.01;

/**
 * Ranks what troubled units share by how surprising the sharing is. What every unit of the
 * population has explains nothing and is last; where nothing stands out, nothing is said to.
 * Sources that exactly the same units have cannot be told apart, and are ranked alike.
 * @param troubled number of troubled units
 * @param population number of all units looked at, the troubled included
 */
export function rankSources(
  sources: readonly Source[],
  troubled: number,
  population: number
): RankedSource[] {
  const chances = sources.map((source) =>
    surprise(population, source.population, troubled, source.troubled)
  );
  // The same split of the same units is one test, however many sources make it.
  const splits = [
    ...new Set(
      sources.map((source, index) => `${source.population} ${source.troubled} ${chances[index]}`)
    )
  ];
  const correctedOf = new Map(
    holm(splits.map((split) => Number(split.split(' ')[2]))).map((value, index) => [
      splits[index]!,
      value
    ])
  );
  const others = population - troubled;
  return sources
    .map((source, index) => {
      const corrected = correctedOf.get(
        `${source.population} ${source.troubled} ${chances[index]}`
      )!;
      const coverage = troubled === 0 ? 0 : source.troubled / troubled;
      const background = others === 0 ? 0 : (source.population - source.troubled) / others;
      return {
        ...source,
        coverage,
        background,
        chance: chances[index]!,
        corrected,
        standsOut: corrected < STANDS_OUT && coverage > background
      };
    })
    .sort(
      (a, b) =>
        a.corrected - b.corrected ||
        a.chance - b.chance ||
        b.coverage - a.coverage ||
        a.background - b.background ||
        (a.key < b.key ? -1 : 1)
    );
}
