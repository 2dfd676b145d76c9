import { present, valueFor } from "@humming-tide/core/presence";

/** Figures of one song or of a mean, as score.py names them. */
type Scores = Readonly<Record<string, number | string>>;

interface BeatScores {
  readonly songs: Readonly<Record<string, Scores>>;
  readonly mean: Scores;
  readonly by_variant: Readonly<Record<string, Scores>>;
  readonly by_meter: Readonly<Record<string, Scores>>;
}

/** Boundary F-measure of each song within 0.5 s and within 3 s. */
type SongScores = Readonly<Record<string, Readonly<Record<string, number>>>>;

/** Of each song: the best F5 over half, one and twice the level, and seconds by score_levels.py. */
type LevelScores = Readonly<
  Record<string, Readonly<Record<"best" | "wrong" | "wrong_doubted" | "right" | "right_doubted", number>>>
>;

/** What was found in a corpus of songs with known truth. */
export interface Corpus {
  readonly name: string;
  /** What was done to its songs before they were heard; null: nothing. */
  readonly treatment: string | null;
  readonly levels: LevelScores;
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

type Cell = string | number;
const row = (cells: readonly Cell[]): string =>
  `| ${cells.map((cell) => (typeof cell === "number" ? cell.toFixed(3) : cell)).join(" | ")} |`;
const table = (head: readonly string[], rows: readonly (readonly Cell[])[]): string =>
  [row(head), row(head.map(() => "---")), ...rows.map(row)].join("\n");

/**
 * Corpora side by side, as Markdown. "Best" is F5 at the best of half, one and twice the level.
 * "Doubted" is the share of all seconds heard wrongly, or rightly, that are marked as doubtful.
 */
export function corporaReport(corpora: readonly Corpus[]): string {
  const share = (corpus: Corpus, kind: "wrong" | "right"): string => {
    const songs = Object.values(corpus.levels);
    const all = songs.reduce((sum, song) => sum + song[kind], 0);
    const doubted = songs.reduce((sum, song) => sum + song[`${kind}_doubted`], 0);
    return all === 0 ? "-" : `${((100 * doubted) / all).toFixed(0)} % of ${(all / 60).toFixed(1)} min`;
  };
  const head = [
    "corpus (songs)",
    "F5",
    "best",
    "F20",
    "CMLt",
    "AMLt",
    "down",
    "wrong, doubted",
    "right, doubted",
    "CPU s / min",
  ];
  return table(
    head,
    corpora.map((corpus) => {
      const { name, treatment, beats, levels, minutes, processorSeconds } = corpus;
      const best = Object.values(levels).map((song) => song.best);
      const mean = (key: string): number => Number(beats.mean[key] ?? 0);
      return [
        `${name}${treatment ? `, ${treatment}` : ""} (${best.length})`,
        mean("F5"),
        best.reduce((sum, value) => sum + value, 0) / best.length,
        ...["F20", "CMLt", "AMLt"].map(mean),
        mean("down") === 0 ? "-" : mean("down"),
        share(corpus, "wrong"),
        share(corpus, "right"),
        (processorSeconds / minutes).toFixed(2),
      ];
    }),
  );
}

/** One corpus as Markdown: the means against what is wanted, per kind, per meter, per song. */
export function accuracyReport({ beats, sections, truths, minutes, processorSeconds }: Corpus): string {
  const number = (scores: Scores, name: string): number => Number(scores[name] ?? 0);
  const boundary = (names: readonly string[], window: string): number =>
    names.reduce((sum, name) => sum + (sections[name]?.[window] ?? 0), 0) / names.length;
  const songs = Object.keys(beats.songs);
  const having = (has: (truth: { meter: string; variants: readonly string[] }) => boolean): string[] =>
    songs.filter((name) => has(valueFor(truths, name)));
  const kinds = (groups: Readonly<Record<string, Scores>>, has: (kind: string) => readonly string[]): Cell[][] =>
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
