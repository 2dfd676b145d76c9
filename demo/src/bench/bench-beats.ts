import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { writeBeatsText, writeMusicJson } from "@humming-tide/core/interchange";
import { analyseMusic } from "@humming-tide/core/music";
import { decodeMono, shippedBeatNetwork } from "@humming-tide/server";
import { accuracyReport, type Corpus, corporaReport } from "./accuracy-report.ts";
import { TREATMENTS, treated } from "./treatments.ts";

const HELP = `npm run bench:beats -- FOLDER... [--treatments] [--scorer DIR] [--estimates DIR] [--docs FILE]

Finds the beats of every song in each FOLDER (NAME.wav with the truth beside it in NAME.beats and NAME.json), scores
them and prints the corpora side by side. Of the first folder it prints every song too.
  --treatments      also as a client might bring them: other tone, limiter, MP3, one channel
  --scorer DIR      where score.py is (default ../shared/bench/beats); it needs Python with mir_eval
  --estimates DIR   keep NAME.beats and NAME.json of what was found there
  --docs FILE       write the tables as Markdown too`;

interface Bench {
  readonly python: string;
  readonly scorer: string;
  /** Where estimates are kept: a folder, or null. */
  readonly kept: string | null;
}

/**
 * Beats, bar starts and sections of corpora, scored by the field's reference implementation, with
 * the processor time used.
 */
async function benchBeats(args: readonly string[]): Promise<void> {
  const option = (name: string): string | undefined => {
    const at = args.indexOf(`--${name}`);
    return at >= 0 ? args[at + 1] : undefined;
  };
  const firstOption = args.findIndex((arg) => arg.startsWith("--"));
  const folders = args.slice(0, firstOption < 0 ? args.length : firstOption);
  if (folders.length === 0) throw new Error(HELP);
  const scorer = option("scorer") ?? "../shared/bench/beats";
  const score = path.join(scorer, "score.py");
  if (!existsSync(score)) throw new Error(`There is no ${score}. Say where score.py is: --scorer DIR.`);
  const bench: Bench = { python: pythonWithScorer(), scorer, kept: option("estimates") ?? null };
  const corpora: Corpus[] = [];
  for (const folder of folders) {
    corpora.push(await measured(folder, null, bench));
    if (!args.includes("--treatments")) continue;
    for (const treatment of TREATMENTS) corpora.push(await measured(folder, treatment, bench));
  }
  const [first] = corpora;
  const report = [corporaReport(corpora), ...(first ? [accuracyReport(first)] : [])].join("\n\n");
  console.log(report);
  const docs = option("docs");
  if (docs) writeFileSync(docs, mergedDocs(docs, report));
}

/** The scores of one corpus, as it is or treated. */
async function measured(folder: string, treatment: string | null, { python, scorer, kept }: Bench): Promise<Corpus> {
  const names = readdirSync(folder)
    .filter((name) => name.endsWith(".wav"))
    .map((name) => path.parse(name).name)
    .sort();
  if (names.length === 0) throw new Error(`There is no NAME.wav in ${folder}.`);
  const work = mkdtempSync(path.join(tmpdir(), "humming-tide-beats-"));
  const estimates = kept && !treatment ? kept : path.join(work, "estimates");
  try {
    mkdirSync(estimates, { recursive: true });
    let [minutes, processorSeconds] = [0, 0];
    for (const [index, name] of names.entries()) {
      const song = path.join(folder, `${name}.wav`);
      const audio = await decodeMono(treatment ? treated(song, treatment, work) : song);
      const before = process.cpuUsage();
      const analysis = analyseMusic(audio, shippedBeatNetwork());
      const { user, system } = process.cpuUsage(before);
      processorSeconds += (user + system) / 1e6;
      minutes += analysis.durationSeconds / 60;
      writeFileSync(path.join(estimates, `${name}.beats`), writeBeatsText(analysis.beats));
      writeFileSync(path.join(estimates, `${name}.json`), writeMusicJson(name, analysis));
      process.stderr.write(`\r${path.basename(folder)} ${treatment ?? ""} ${index + 1} of ${names.length} `);
    }
    process.stderr.write("\r");
    const ask = (...command: string[]): unknown =>
      JSON.parse(execFileSync(python, ["-W", "ignore", ...command], { encoding: "utf8", maxBuffer: 2 ** 26 }));
    const own = (script: string): unknown => ask(path.join(import.meta.dirname, script), folder, estimates);
    const truths = new Map(
      names.map((name) => {
        const truth = JSON.parse(readFileSync(path.join(folder, `${name}.json`), "utf8")) as Truth;
        return [name, { meter: truth.meter, variants: truth.variants ?? [] }];
      }),
    );
    return {
      name: path.basename(folder),
      treatment,
      beats: ask(
        path.join(scorer, "score.py"),
        "--truth",
        folder,
        "--estimates",
        estimates,
        "--json",
      ) as Corpus["beats"],
      sections: own("score_sections.py") as Corpus["sections"],
      levels: own("score_levels.py") as Corpus["levels"],
      truths,
      minutes,
      processorSeconds,
    };
  } finally {
    rmSync(work, { recursive: true });
  }
}

interface Truth {
  readonly meter: string;
  readonly variants?: readonly string[];
}

const [BEGIN, END] = ["<!-- tables: made by npm run bench:beats, do not edit -->", "<!-- end of tables -->"];

/** The file with the part between its two marks replaced. */
function mergedDocs(file: string, report: string): string {
  const text = existsSync(file) ? readFileSync(file, "utf8") : `${BEGIN}\n${END}\n`;
  const [from, to] = [text.indexOf(BEGIN), text.indexOf(END)];
  if (from < 0 || to < from) throw new Error(`${file} lacks the marks "${BEGIN}" and "${END}".`);
  return `${text.slice(0, from + BEGIN.length)}\n\n${report}\n${text.slice(to)}`;
}

function pythonWithScorer(): string {
  for (const python of ["python3", "/usr/bin/python3"]) {
    try {
      execFileSync(python, ["-c", "import mir_eval"], { stdio: "ignore" });
      return python;
    } catch {
      // The next one may have it.
    }
  }
  throw new Error("No Python with mir_eval was found. Debian: apt-get install python3-mir-eval.");
}

await benchBeats(process.argv.slice(2)).catch((error: unknown) => {
  console.error((error as Error).message);
  process.exitCode = 1;
});
