import { present, valueFor } from "@humming-tide/core/presence";

/** Figures of one song or of a mean, as score.py names them. */
type Scores = Readonly<Record<string, number | string>>;

export interface BeatScores {
  readonly songs: Readonly<Record<string, Scores>>;
  readonly mean: Scores;
  readonly by_variant: Readonly<Record<string, Scores>>;
  readonly by_meter: Readonly<Record<string, Scores>>;
}

/** Boundary F-measure of each song within 0.5 s and within 3 s. */
export type SongScores = Readonly<Record<string, Readonly<Record<string, number>>>>;

export interface Accuracy {
  readonly beats: BeatScores;
  readonly sections: SongScores;
  readonly truths: ReadonlyMap<string, { readonly meter: string; readonly variants: readonly string[] }>;
  readonly minutes: number;
  readonly processorSeconds: number;
}

const WANTED: readonly (readonly [string, string, number])[] = [
  ["F5", "F-measure, 70 ms", 0.95],
  ["F20", "F-measure, 20 ms", 0.93],
  ["CMLt", "continuity, right level", 0.88],
  ["AMLt", "continuity, any level", 0.97],
  ["down", "bar starts, 70 ms", 0.85],
];
const COLUMNS = ["F5", "F20", "CMLt", "AMLt", "down"];

/** The figures as Markdown: the means against what is wanted, per kind, per meter, per song. */
export function accuracyReport({ beats, sections, truths, minutes, processorSeconds }: Accuracy): string {
  const row = (cells: readonly (string | number)[]): string =>
    `| ${cells.map((cell) => (typeof cell === "number" ? cell.toFixed(3) : cell)).join(" | ")} |`;
  const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
    [row(head), row(head.map(() => "---")), ...rows.map(row)].join("\n");
  const number = (scores: Scores, name: string): number => Number(scores[name] ?? 0);
  const boundary = (names: readonly string[], window: string): number =>
    names.reduce((sum, name) => sum + (sections[name]?.[window] ?? 0), 0) / names.length;
  const songs = Object.keys(beats.songs);
  const having = (has: (truth: { meter: string; variants: readonly string[] }) => boolean): string[] =>
    songs.filter((name) => has(valueFor(truths, name)));
  const kinds = (
    groups: Readonly<Record<string, Scores>>,
    has: (kind: string) => readonly string[],
  ): (string | number)[][] =>
    Object.entries(groups).map(([kind, scores]) => [
      `${kind} (${scores["songs"]})`,
      ...COLUMNS.map((name) => number(scores, name)),
      boundary(has(kind), "0.5"),
      boundary(has(kind), "3.0"),
    ]);
  const head = [...COLUMNS, "sections 0.5 s", "sections 3 s"];
  return [
    `Measured ${new Date().toISOString().slice(0, 10)}: ${songs.length} songs, ${minutes.toFixed(0)} minutes.`,
    table(
      ["mean over the songs", "measured", "wanted"],
      [
        ...WANTED.map(([name, text, wanted]) => [`${text} (${name})`, number(beats.mean, name), wanted.toFixed(2)]),
        ["section boundaries within 0.5 s, F", boundary(songs, "0.5"), "reported"],
        ["section boundaries within 3 s, F", boundary(songs, "3.0"), "reported"],
        ["median distance of matched beats, ms", number(beats.mean, "err_ms").toFixed(1), ""],
        [
          "CPU seconds per minute of music, decoding left out",
          (processorSeconds / minutes).toFixed(2),
          "at most 0.8, hope 0.3",
        ],
      ],
    ),
    table(
      ["kind (songs)", ...head],
      kinds(beats.by_variant, (kind) => having((truth) => truth.variants.includes(kind))),
    ),
    table(
      ["meter (songs)", ...head],
      kinds(beats.by_meter, (kind) => having((truth) => truth.meter === kind)),
    ),
    table(
      ["song", ...head, "level"],
      songs.map((name) => [
        name,
        ...COLUMNS.map((column) => number(present(beats.songs[name]), column)),
        boundary([name], "0.5"),
        boundary([name], "3.0"),
        String(present(beats.songs[name])["octave"]),
      ]),
    ),
  ].join("\n\n");
}
