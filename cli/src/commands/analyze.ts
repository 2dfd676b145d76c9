import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import { type MarksFormat, writeBeatsText, writeMarks, writeMusicJson } from "@humming-tide/core/interchange";
import { analyseMusic, type MusicAnalysis } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import { clockText } from "@humming-tide/core/time";
import { decodeMono, shippedBeatNetwork } from "@humming-tide/server";
import { splitArguments } from "../arguments.ts";
import type { Terminal } from "../terminal.ts";
import { usageError } from "../usage-errors.ts";

export const ANALYZE_HELP = `humming-tide analyze FILE... [--json-dir DIR] [--beats-dir DIR] [--marks-dir DIR]

Finds the beats, bar starts, tempo, accents and energy of songs (MP3, M4A, WAV, FLAC, OGG and
whatever ffmpeg decodes).

  --json-dir DIR    write NAME.json for each song: everything that was found
  --beats-dir DIR   write NAME.beats for each song: a line per beat, seconds<TAB>position in bar (1
                    = bar start, 0 = unknown)
  --marks-dir DIR   write NAME.csv, NAME.vtt and NAME.mid for each song: beats, and sections as
                    markers, for other programs

Times count from the first decoded sample. A song without a steady beat has no beats, which is no
error. A file that cannot be decoded is named and the others go on; the exit code is then 1.`;

export async function analyze(args: readonly string[], terminal: Terminal): Promise<number> {
  const { files, options } = splitArguments(args, ["json-dir", "beats-dir", "marks-dir"]);
  if (files.length === 0)
    throw usageError("usage-files", { command: "analyze", wanted: "at least one FILE", given: 0 });
  const folders = [options["json-dir"], options["beats-dir"], options["marks-dir"]].filter(
    (folder) => folder !== undefined,
  );
  for (const folder of folders) await mkdir(folder, { recursive: true });
  const stems = new Set<string>();
  let failures = 0;
  for (const [index, file] of files.entries()) {
    const stem = path.parse(file).name;
    terminal.progressLine(`Listening to ${path.basename(file)}`, index / files.length);
    try {
      if (stems.has(stem))
        throw new Error(
          `another file is also called "${stem}", and both would be written to the same place. Rename one of them.`,
        );
      stems.add(stem);
      const analysis = analyseMusic(await decodeMono(file), shippedBeatNetwork());
      if (options["json-dir"])
        await writeFile(path.join(options["json-dir"], `${stem}.json`), writeMusicJson(file, analysis));
      if (options["beats-dir"])
        await writeFile(path.join(options["beats-dir"], `${stem}.beats`), writeBeatsText(analysis.beats));
      const marksFolder = options["marks-dir"];
      if (marksFolder) {
        for (const format of ["csv", "vtt", "mid"] as const)
          await writeFile(path.join(marksFolder, `${stem}.${format}`), marksOf(analysis, format));
      }
      const found = analysis.steady
        ? `${present(analysis.tempoBpm).toFixed(1)} BPM, ${analysis.meter}, ${analysis.beats.length} beats, ${analysis.bars.length} bars`
        : "no steady beat found";
      terminal.print(`${file}: ${clockText(analysis.durationSeconds)}, ${found}`);
    } catch (error) {
      failures++;
      terminal.complain(`${file}: ${(error as Error).message}`);
    }
  }
  terminal.endProgress();
  return failures > 0 ? 1 : 0;
}

function marksOf(analysis: MusicAnalysis, format: MarksFormat): Uint8Array {
  const markers = analysis.sections.map(({ startSeconds, label }) => ({
    seconds: startSeconds,
    name: label,
    kind: "section" as const,
  }));
  return writeMarks(format, { beats: analysis.beats, markers }, analysis.durationSeconds);
}
