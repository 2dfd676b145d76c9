import { stat } from "node:fs/promises";
import { chaptersOf, planOutput, showForOutput } from "@humming-tide/core/film";
import { mainOutput } from "@humming-tide/core/show";
import { writePlayer } from "@humming-tide/server";
import { filesOf, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import { requireShow } from "../find-show.ts";
import { inStudio, untilStopped } from "../in-studio.ts";
import type { Terminal } from "../terminal.ts";
import { usageError } from "../usage-errors.ts";

export const PLAYER_HELP = `humming-tide player SHOW --to PLACE [--output NAME] [--data FOLDER]

Writes a show's film as a folder that plays by a double click on its page, without a server or a
network: pictures, clips, words and sound.

  SHOW             the show's name or its id
  --to PLACE       a folder that is not there yet, or a file that ends with .zip
  --output NAME    which of the show's outputs (size, captions, watermark, bars); the show as it is
                   laid where none is named
  --data FOLDER    where the shows lie (default: HUMMING_TIDE_DATA, or "Humming Tide" in your home
                   folder)

Exit codes: 0 written, 1 failed, 2 wrong arguments.`;

export async function player(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["to", "output", "data"]);
  const { options } = parsed;
  const [name] = filesOf("player", parsed, ["SHOW"]);
  const { to: place } = options;
  if (place === undefined)
    throw usageError("usage-option-missing", { option: "to", wanted: "a folder or a .zip file" });
  const isThere = await stat(place).then(
    () => true,
    () => false,
  );
  if (isThere) throw commandError("place-taken", { place });
  return inStudio(options.data, async ({ library, shows, ...studio }) => {
    const { document } = await requireShow({ library, shows, ...studio }, name);
    const output =
      options.output === undefined ? mainOutput(document) : document.outputs.find((one) => one.name === options.output);
    if (!output) {
      const names = document.outputs.map((one) => `"${one.name}"`).join(", ");
      throw commandError("no-such-output", { output: String(options.output), names });
    }
    const plan = planOutput(document, output, await library.filmFacts(document));
    const copies = await library.prepareFilm(showForOutput(document, output), plan);
    const bytes = await untilStopped((signal) =>
      writePlayer({
        ...{ plan, output, copies, place, signal, title: document.title, store: library.store },
        chapters: chaptersOf(document, plan),
        onProgress: ({ step, progress }) => terminal.progressLine(step, progress),
      }),
    );
    terminal.endProgress();
    terminal.print(`${place}: ${(bytes / 1e6).toFixed(1)} MB`);
    return 0;
  });
}
