import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { planFilm } from "@humming-tide/core/film";
import { compareTimings, readEditList, readOtio, timelineOf } from "@humming-tide/core/interchange";
import { present } from "@humming-tide/core/presence";
import { clockText } from "@humming-tide/core/time";
import { FILM_FILES, isFilmFileFormat } from "@humming-tide/server";
import { filesOf, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import { requireShow } from "../find-show.ts";
import { inStudio } from "../in-studio.ts";
import type { Terminal } from "../terminal.ts";
import { usageError } from "../usage-errors.ts";

export const TIMELINE_HELP = `humming-tide timeline SHOW (--to FILE | --compare FILE) [--data FOLDER]

Writes a show's film for other tools, or compares what another tool made of it with the film as it
is laid now.

  SHOW             the show's name or its id
  --to FILE        by its ending: .otio (OpenTimelineIO), .edl (CMX 3600), .csv (slots), .vtt
                   (chapters), .mid (grid), .pdf (cue sheet)
  --compare FILE   an .otio or .edl file: prints every change that lies elsewhere
  --data FOLDER    where the shows lie (default: HUMMING_TIDE_DATA, or "Humming Tide" in your home
                   folder)

Exit codes: 0 written, or all changes lie where the film has them; 1 some do not, or it failed; 2
wrong arguments.`;

export async function timeline(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["to", "compare", "data"]);
  const { options } = parsed;
  const [name] = filesOf("timeline", parsed, ["SHOW"]);
  const { to, compare } = options;
  if ((to === undefined) === (compare === undefined)) {
    throw usageError("usage-options-either", { command: "timeline", options: ["to", "compare"] });
  }
  const format = path
    .extname(to ?? compare ?? "")
    .slice(1)
    .toLowerCase();
  const endings = Object.keys(FILM_FILES)
    .map((ending) => `.${ending}`)
    .join(", ");
  if (to !== undefined && !isFilmFileFormat(format))
    throw usageError("usage-option-value", { option: "to", wanted: `a file ending in ${endings}`, given: to });
  if (compare !== undefined && format !== "otio" && format !== "edl")
    throw usageError("usage-option-value", { option: "compare", wanted: "an .otio or an .edl file", given: compare });
  return inStudio(options.data, async (studio) => {
    const { document } = await requireShow(studio, name);
    if (to !== undefined && isFilmFileFormat(format)) {
      const { bytes } = await studio.planner.filmFile(document, format);
      await writeFile(to, bytes);
      terminal.print(`${to}: ${bytes.length} bytes`);
      return 0;
    }
    const text = await readFile(present(compare), "utf8").catch((cause: unknown) => {
      throw commandError("path-unknown", { what: "file", path: present(compare) }, { cause });
    });
    const plan = planFilm(document, await studio.library.filmFacts(document));
    const imported = format === "otio" ? readOtio(text) : readEditList(text, plan.rate);
    for (const remark of imported.remarks) terminal.print(remark);
    const differences = compareTimings(timelineOf(document, plan), imported);
    for (const { name: picture, ownSeconds, otherSeconds } of differences)
      terminal.print(
        ownSeconds === null
          ? `${picture}: only in the file, at ${clockText(present(otherSeconds))}`
          : otherSeconds === null
            ? `${picture}: only in the film, at ${clockText(ownSeconds)}`
            : `${picture}: ${(otherSeconds - ownSeconds).toFixed(3)} s from where the film has it (${clockText(ownSeconds)})`,
      );
    terminal.print(
      differences.length === 0 ? "Every change lies where the film has it." : `${differences.length} lie elsewhere`,
    );
    return differences.length === 0 ? 0 : 1;
  });
}
