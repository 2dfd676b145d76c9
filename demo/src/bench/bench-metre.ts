import { fitShow, type ShowFit } from "@humming-tide/core/film";
import { itemAt, present } from "@humming-tide/core/presence";
import { corpusFilms } from "./corpus-films.ts";

/** A few, a wedding's, and more than a song has room for. */
const SLIDE_COUNTS = [20, 60, 140];
/** Of a 4/4 song; issue of the measure. */
const NATURAL_BEATS = [1, 2, 4, 8, 16];
const BEATS_PER_BAR = 4;

/** How a film keeps to the metre; shares from 0 to 1, null where there is nothing to count. */
interface MetreFigures {
  readonly slots: number;
  readonly leftOut: number;
  readonly repeats: number;
  /** Of the slots between two beats, those of 1, 2, 4, 8 or 16 beats. */
  readonly natural: number | null;
  /**
   * Of all changes, those on a bar, phrase, section or marker; null where slots are shorter than a
   * bar on average.
   */
  readonly onBars: number | null;
  /** Of the places where slots become longer or shorter, those on a phrase or section. */
  readonly changesWithMusic: number | null;
  /** How many places those are. */
  readonly changes: number;
  /** Correlation of length and loudness; null where the song has no quiet and loud parts. */
  readonly energy: number | null;
}

/**
 * Prints how films on the 4/4 songs of a folder keep to the metre. The folder has analyses, as
 * \`humming-tide analyse\` writes them.
 */
export function benchMetre(folder: string): void {
  console.log("  | song | slides | slots (left out, again) | natural | on bars | changes with the music | energy |");
  console.log("  |---|---|---|---|---|---|---|");
  const all: MetreFigures[] = [];
  for (const { name, show, facts } of corpusFilms(folder, SLIDE_COUNTS)) {
    const figures = metreFigures(fitShow(show, facts));
    all.push(figures);
    const { slots, leftOut, repeats, natural, onBars, changesWithMusic, energy } = figures;
    const cells = [name, show.slides.length, `${slots} (${leftOut}, ${repeats})`, share(natural), share(onBars)];
    console.log(`  | ${[...cells, share(changesWithMusic), energy?.toFixed(2) ?? "–"].join(" | ")} |`);
  }
  const reach = (of: keyof MetreFigures, wanted: number): string => {
    const values = all.map((figures) => figures[of]).filter((value) => value !== null);
    return `${values.filter((value) => value >= wanted).length} of ${values.length}`;
  };
  console.log(
    `  ${all.length} films. At least 85 % natural: ${reach("natural", 0.85)}. ` +
      `At least 70 % on bars: ${reach("onBars", 0.7)}. ` +
      `At least 80 % of changes with the music: ${reach("changesWithMusic", 0.8)}.`,
  );
  const turns = all.reduce((sum, { changes }) => sum + changes, 0);
  const withMusic = all.reduce((sum, { changes, changesWithMusic }) => sum + changes * (changesWithMusic ?? 0), 0);
  console.log(`  Of all ${turns} changes of length ${share(withMusic / turns)} with the music.`);
  const energies = all.map(({ energy }) => energy).filter((value) => value !== null);
  console.log(`  Energy at most -0.3: ${energies.filter((value) => value <= -0.3).length} of ${energies.length}.`);
}

const share = (value: number | null): string => (value === null ? "–" : `${Math.round(100 * value)} %`);

function metreFigures({ request, result }: ShowFit): MetreFigures {
  const starts = result.slots.map(({ landing }) => landing);
  const lengths = starts.slice(0, -1).map((from, k) => {
    const [first, last] = [from?.beatIndex ?? null, itemAt(starts, k + 1)?.beatIndex ?? null];
    return first === null || last === null ? null : last - first;
  });
  const counted = lengths.filter((beats) => beats !== null);
  const changes = starts.slice(1);
  const mean = counted.reduce((sum, beats) => sum + beats, 0) / Math.max(1, counted.length);
  const isStrong = (kind: string | undefined): boolean => ["bar", "phrase", "section", "marker"].includes(kind ?? "");
  const turns = lengths.flatMap((beats, k) =>
    k > 0 && beats !== null && lengths[k - 1] !== null && beats !== lengths[k - 1] ? [present(itemAt(starts, k))] : [],
  );
  const ratio = (part: number, of: number): number | null => (of === 0 ? null : part / of);
  return {
    slots: result.slots.length,
    leftOut: result.leftOut.length,
    repeats: result.repeats,
    natural: ratio(counted.filter((beats) => NATURAL_BEATS.includes(beats)).length, counted.length),
    onBars:
      mean < BEATS_PER_BAR ? null : ratio(changes.filter((landing) => isStrong(landing?.kind)).length, changes.length),
    changesWithMusic: ratio(turns.filter(({ kind }) => kind !== "bar" && isStrong(kind)).length, turns.length),
    changes: turns.length,
    energy: energyOf(request, result),
  };
}

/** Quiet and loud sections: their loudness, -1 to 1, differs by at least this. */
const HEARD_DIFFERENCE = 0.5;

function energyOf({ music }: ShowFit["request"], { slots, endSeconds }: ShowFit["result"]): number | null {
  const starts = slots.map(({ landing }) => landing?.seconds ?? 0);
  const pairs = starts.map((from, k) => {
    const to = starts[k + 1] ?? endSeconds;
    return { length: Math.log(to - from), loudness: loudnessOf(music, from, to) };
  });
  const ends = [...music.sections.map(({ startSeconds }) => startSeconds), endSeconds];
  const levels = music.sections.map(({ startSeconds }, i) => loudnessOf(music, startSeconds, itemAt(ends, i + 1)));
  if (levels.length === 0 || Math.max(...levels) - Math.min(...levels) < HEARD_DIFFERENCE) return null;
  const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [x, y] = [pairs.map(({ length }) => length), pairs.map(({ loudness }) => loudness)];
  const [mx, my] = [mean(x), mean(y)];
  const product = (a: readonly number[], ma: number, b: readonly number[], mb: number): number =>
    a.reduce((sum, value, i) => sum + (value - ma) * (itemAt(b, i) - mb), 0);
  const spread = Math.sqrt(product(x, mx, x, mx) * product(y, my, y, my));
  return spread === 0 ? 0 : product(x, mx, y, my) / spread;
}

function loudnessOf({ loudnessAt }: ShowFit["request"]["music"], from: number, to: number): number {
  const count = Math.max(1, Math.round(2 * (to - from)));
  let sum = 0;
  for (let k = 0; k < count; k++) sum += loudnessAt(from + ((k + 0.5) * (to - from)) / count);
  return sum / count;
}
