import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { access, readFile } from "node:fs/promises";
import path from "node:path";
import { pipeline } from "node:stream/promises";
import { type FilmReport, parseFilmReport } from "@humming-tide/core/interchange";
import { valueFor } from "@humming-tide/core/presence";
import { frameRateName } from "@humming-tide/core/time";
import { verifyFilm } from "@humming-tide/server";
import { filesOf, required, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import type { Terminal } from "../terminal.ts";

export const VERIFY_HELP = `humming-tide verify FILM.mp4 --report R.json

Decodes a film and measures, from its pixels and its sound alone, at which frame each change is seen
and how far from its landing, and how far the music lies from where it should be. Prints measured
beside planned, in frames and milliseconds.

The shown change is the new picture's first frame (cut) or the frame nearest the 50 % point
(dissolve). Exit code 1 if a change is off by more than half a frame (plus 0.01), the music by more
than 10 ms, more than 10 % of the changes cannot be seen, or film and report do not belong together;
2 for wrong arguments.`;

export async function verify(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["report"]);
  const [film] = filesOf("verify", parsed, ["FILM"]);
  const reportPath = required(parsed, "report");
  const report = parseFilmReport(
    await readFile(reportPath, "utf8").catch((cause: unknown) => {
      throw commandError("cannot-read", { file: reportPath, why: (cause as Error).message }, { cause });
    }),
  );
  const songs = await findSongs(report, reportPath);
  const songPathOf = (sha256: string): string => valueFor(songs, sha256);
  const measured = await verifyFilm(film, report, songPathOf, (share) => terminal.progressLine("Measuring", share));
  terminal.endProgress();

  terminal.print(
    `${film}: ${measured.film.frames} frames (${measured.film.plannedFrames} planned) at ${frameRateName(report.fps)}`,
  );
  terminal.print("slot  kind      planned frame  measured frame  planned ms  measured ms  frames  source");
  for (const change of measured.changes) {
    const cells = [
      String(change.index).padStart(4),
      change.kind.padEnd(8),
      String(change.plannedFrame).padStart(13),
      (change.measuredFrame === null ? "not seen" : String(change.measuredFrame)).padStart(14),
      change.plannedErrorMs.toFixed(1).padStart(10),
      (change.measuredErrorMs?.toFixed(1) ?? "-").padStart(11),
      (change.measuredErrorFrames?.toFixed(2) ?? "-").padStart(6),
      change.source,
    ];
    terminal.print(cells.join("  "));
  }
  for (const { index, source, reason } of measured.unseen)
    terminal.print(`not seen: slot ${index} (${source}): ${reason}`);
  const { lagMs, songSilent, loudness } = measured.sound;
  terminal.print(
    songSilent
      ? "music: silent, nothing to compare"
      : `music: ${lagMs === null ? "not comparable" : `${lagMs.toFixed(2)} ms off`}`,
  );
  if (loudness) {
    const { integratedLufs, truePeakDbtp, rangeLu } = loudness;
    terminal.print(
      integratedLufs === null || truePeakDbtp === null
        ? "loudness: too soft to be measured"
        : `loudness: ${integratedLufs.toFixed(1)} LUFS, true peak ${truePeakDbtp.toFixed(1)} dBTP, range ${rangeLu.toFixed(1)} LU`,
    );
  }
  terminal.print(
    `largest error: ${measured.largestErrorFrames === null ? "none measured" : `${measured.largestErrorFrames.toFixed(3)} frames`} over ${measured.changes.length - measured.unseen.length} of ${measured.changes.length} changes`,
  );
  for (const problem of measured.problems) terminal.complain(problem);
  terminal.print(measured.ok ? "OK" : "NOT OK");
  return measured.ok ? 0 : 1;
}

/** The songs that the report names, by their hashes. */
async function findSongs(report: FilmReport, reportPath: string): Promise<ReadonlyMap<string, string>> {
  const places = new Map<string, string>();
  for (const song of [report.music, ...(report.pieces ?? [])]) {
    if (!places.has(song.sha256)) places.set(song.sha256, await findSong(song, reportPath));
  }
  return places;
}

/**
 * A song that the report names, as it stands there or beside the report, and only if it is still
 * the same file.
 */
async function findSong(
  { path: named, sha256 }: { readonly path: string; readonly sha256: string },
  reportPath: string,
): Promise<string> {
  const places = [
    path.resolve(path.dirname(reportPath), named),
    path.resolve(named),
    path.join(path.dirname(reportPath), path.basename(named)),
  ];
  for (const place of places) {
    if (
      !(await access(place).then(
        () => true,
        () => false,
      ))
    )
      continue;
    const hash = createHash("sha256");
    await pipeline(createReadStream(place), hash);
    if (hash.digest("hex") === sha256) return place;
    throw commandError("music-changed", { song: place });
  }
  throw commandError("report-song-missing", { song: named });
}
