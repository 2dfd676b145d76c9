import { writeFile } from "node:fs/promises";
import { type Finding, findingText } from "@humming-tide/core/check";
import { counted } from "@humming-tide/core/language";
import { clockText } from "@humming-tide/core/time";
import { checkShow, StoredMedia } from "@humming-tide/server";
import { filesOf, splitArguments } from "../arguments.ts";
import { requireShow } from "../find-show.ts";
import { inStudio, untilStopped } from "../in-studio.ts";
import type { Terminal } from "../terminal.ts";

export const CHECK_HELP = `humming-tide check SHOW [--data FOLDER] [--json FILE]

Looks for what should not be handed over: landings and locks that are missed, slides and words that
are too short, pictures that are too small, subjects cut off in any output, bars, missing or changed
files, music that ends badly, flashes (WCAG 2.3.1), loudness and true peak. Every frame is drawn and
the whole sound is mixed for it.

  SHOW           the show's name or its id
  --data FOLDER  where the shows lie (default: HUMMING_TIDE_DATA, or "Humming Tide" in your home
                 folder)
  --json FILE    everything that was found, with places and numbers

Prints a line for each finding.
Exit codes: 0 no errors (there may be warnings), 1 errors, or it
could not be checked, 2 wrong arguments.`;

export async function check(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["data", "json"]);
  const { options } = parsed;
  const [name] = filesOf("check", parsed, ["SHOW"]);
  return inStudio(options.data, async (studio) => {
    const { folder, library, planner } = studio;
    const { document } = await requireShow(studio, name);
    const { findings, facts } = await untilStopped((signal) =>
      checkShow({
        folder,
        library,
        planner,
        stored: new StoredMedia(library.store),
        document,
        signal,
        onProgress: (step, progress) => terminal.progressLine(step, progress),
      }),
    );
    terminal.endProgress();
    for (const finding of findings) terminal.print(lineOf(finding));
    const { landings, levels, files: count, frames } = facts;
    terminal.print(
      [
        `${count} files`,
        `${frames} frames`,
        ...(landings
          ? [`${landings.count} landings within ${(landings.largestErrorFrames ?? 0).toFixed(2)} frames`]
          : []),
        ...(levels && levels.integratedLufs !== null ? [`${levels.integratedLufs.toFixed(1)} LUFS`] : []),
        ...(levels && levels.truePeakDbtp !== null ? [`${levels.truePeakDbtp.toFixed(1)} dBTP`] : []),
      ].join(", "),
    );
    if (options.json) await writeFile(options.json, JSON.stringify({ findings, facts }, null, 1));
    const errors = findings.filter(({ severity }) => severity === "error").length;
    terminal.print(errors > 0 ? `NOT OK: ${counted(errors, "error")}` : "OK");
    return errors > 0 ? 1 : 0;
  });
}

/** "error  0:42.120  words-short: …". */
function lineOf(finding: Finding): string {
  const { severity, kind, place } = finding;
  const at = place.seconds === null ? "" : clockText(place.seconds);
  return `${severity.padEnd(7)} ${at.padStart(8)}  ${kind}: ${findingText(finding)}`;
}
