import { createWriteStream } from "node:fs";
import { rename, rm, stat } from "node:fs/promises";
import { pipeline } from "node:stream/promises";
import { openPackage, writePackage } from "@humming-tide/server";
import { filesOf, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import { requireShow } from "../find-show.ts";
import { inStudio } from "../in-studio.ts";
import type { Terminal } from "../terminal.ts";

export const PACK_HELP = `humming-tide pack SHOW FILE.zip [--data FOLDER]

Writes a show with all its media into one file, to archive it or to open it on another machine.
SHOW is the show's name or its id.
Exit codes: 0 written, 1 failed, 2 wrong arguments.`;

export const UNPACK_HELP = `humming-tide unpack FILE.zip [--data FOLDER]

Opens a package as a new show. Everything in it is checked; a damaged or hostile one is refused and
changes nothing.
Exit codes: 0 opened, 1 failed, 2 wrong arguments.`;

export async function pack(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["data"]);
  const { options } = parsed;
  const [name, file] = filesOf("pack", parsed, ["SHOW", "FILE"]);
  return inStudio(options.data, async (studio) => {
    const { document } = await requireShow(studio, name);
    // Beside its place and renamed when whole, so that a file of that name is never half a package.
    const unfinished = `${file}.unfinished`;
    try {
      await pipeline(await writePackage(document, studio.library), createWriteStream(unfinished));
      await rename(unfinished, file);
    } finally {
      await rm(unfinished, { force: true });
    }
    terminal.print(`${file}: "${document.title}", ${((await stat(file)).size / 1e6).toFixed(1)} MB`);
    return 0;
  });
}

export async function unpack(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["data"]);
  const { options } = parsed;
  const [file] = filesOf("unpack", parsed, ["FILE"]);
  const facts = await stat(file).catch(() => null);
  if (!facts?.isFile()) throw commandError("path-unknown", { what: "file", path: file });
  return inStudio(options.data, async (studio) => {
    const show = await openPackage({
      path: file,
      bytes: facts.size,
      library: studio.library,
      shows: studio.shows,
      background: studio.background,
      signal: new AbortController().signal,
      onProgress: (done, total) => terminal.progressLine(`${done} of ${total} files`, total > 0 ? done / total : 1),
    });
    terminal.endProgress();
    terminal.print(`Opened "${show.title}", ${show.slideCount} slides: ${show.id}`);
    return 0;
  });
}
