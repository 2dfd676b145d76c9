import { execFileSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { writeBeatsText, writeMusicJson } from "@humming-tide/core/interchange";
import { analyseMusic } from "@humming-tide/core/music";
import { decodeMono, shippedBeatNetwork } from "@humming-tide/server";
import { accuracyReport, type BeatScores, type SongScores } from "./accuracy-report.ts";

const HELP = `npm run bench:beats -- FOLDER [--scorer DIR] [--estimates DIR] [--docs FILE]

Finds the beats of every song in FOLDER (NAME.wav with the truth beside it in NAME.beats and NAME.json) and scores them.
  --scorer DIR      where score.py is (default ../shared/bench/beats); it needs Python with mir_eval
  --estimates DIR   keep NAME.beats and NAME.json of what was found there
  --docs FILE       write the tables as Markdown too`;

/**
 * Beats, bar starts and sections of a corpus, scored by the field's reference implementation, with
 * the processor time used.
 */
async function benchBeats(args: readonly string[]): Promise<void> {
  const option = (name: string): string | undefined => {
    const at = args.indexOf(`--${name}`);
    return at >= 0 ? args[at + 1] : undefined;
  };
  const [folder] = args;
  if (!folder || folder.startsWith("--")) throw new Error(HELP);
  const scorer = option("scorer") ?? "../shared/bench/beats";
  const score = path.join(scorer, "score.py");
  if (!existsSync(score)) throw new Error(`There is no ${score}. Say where score.py is: --scorer DIR.`);
  const python = pythonWithScorer();
  const names = readdirSync(folder)
    .filter((name) => name.endsWith(".wav"))
    .map((name) => path.parse(name).name)
    .sort();
  if (names.length === 0) throw new Error(`There is no NAME.wav in ${folder}.`);
  const estimates = option("estimates") ?? mkdtempSync(path.join(tmpdir(), "humming-tide-beats-"));
  try {
    let [minutes, processorSeconds] = [0, 0];
    for (const [index, name] of names.entries()) {
      const audio = await decodeMono(path.join(folder, `${name}.wav`));
      const before = process.cpuUsage();
      const analysis = analyseMusic(audio, shippedBeatNetwork());
      const { user, system } = process.cpuUsage(before);
      processorSeconds += (user + system) / 1e6;
      minutes += analysis.durationSeconds / 60;
      writeFileSync(path.join(estimates, `${name}.beats`), writeBeatsText(analysis.beats));
      writeFileSync(path.join(estimates, `${name}.json`), writeMusicJson(name, analysis));
      process.stderr.write(`\r${index + 1} of ${names.length} `);
    }
    process.stderr.write("\r");
    const ask = (...command: string[]): unknown =>
      JSON.parse(execFileSync(python, command, { encoding: "utf8", maxBuffer: 2 ** 26 }));
    const beats = ask(score, "--truth", folder, "--estimates", estimates, "--json") as BeatScores;
    const sections = ask(path.join(import.meta.dirname, "score_sections.py"), folder, estimates) as SongScores;
    const truths = new Map(
      names.map((name) => [
        name,
        JSON.parse(readFileSync(path.join(folder, `${name}.json`), "utf8")) as { meter: string; variants: string[] },
      ]),
    );
    const report = accuracyReport({ beats, sections, truths, minutes, processorSeconds });
    console.log(report);
    const docs = option("docs");
    if (docs) writeFileSync(docs, mergedDocs(docs, report));
  } finally {
    if (!option("estimates")) rmSync(estimates, { recursive: true });
  }
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
