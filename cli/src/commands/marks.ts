import { readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { MARKS_FORMATS, type Marks, readMarks, withWavCues, writeMarks } from "@humming-tide/core/interchange";
import { present } from "@humming-tide/core/presence";
import { filesOf, required, splitArguments } from "../arguments.ts";
import { commandError } from "../command-errors.ts";
import type { Terminal } from "../terminal.ts";
import { usageError } from "../usage-errors.ts";

export const MARKS_HELP = `humming-tide marks FILE --to OUT [--sound WAV]

Reads beats and markers from a file of another program and writes them in another format.

  FILE          two-column text, CSV, WebVTT, Standard MIDI File, or WAV with cue points: told by
                its content
  --to OUT      OUT ends in .beats, .csv, .vtt, .mid or .wav; the ending says the format
  --sound WAV   for OUT.wav: the sound that gets the markers as cue points; it is copied, not
                changed

Text in two columns holds no markers, WebVTT and WAV hold no beats: what a format cannot hold is
said. Formats: docs/formats.md.`;

const ENDINGS = [...MARKS_FORMATS, "wav"].map((ending) => `.${ending}`).join(", ");

export async function marks(args: readonly string[], terminal: Terminal): Promise<number> {
  const parsed = splitArguments(args, ["to", "sound"]);
  const [file] = filesOf("marks", parsed, ["FILE"]);
  const to = required(parsed, "to");
  const ending = path.extname(to).slice(1).toLowerCase();
  const format = MARKS_FORMATS.find((known) => known === ending);
  if (!format && ending !== "wav")
    throw usageError("usage-option-value", { option: "to", wanted: `a file ending in ${ENDINGS}`, given: to });
  const { sound } = parsed.options;
  if (ending === "wav" && sound === undefined)
    throw usageError("usage-option-missing", { option: "sound", wanted: "markers go into a sound" });
  const found = readMarks(await read(file), path.basename(file));
  const last = Math.max(0, ...[...found.beats, ...found.markers].map(({ seconds }) => seconds));
  await writeFile(
    to,
    format ? writeMarks(format, found, last) : withWavCues(await read(present(sound)), found.markers),
  );
  terminal.print(`${to}: ${writtenText(found, ending)}`);
  return 0;
}

async function read(file: string): Promise<Uint8Array> {
  return readFile(file).catch((cause: Error) => {
    throw commandError("cannot-read", { file, why: cause.message }, { cause });
  });
}

function writtenText({ beats, markers }: Marks, ending: string): string {
  const lost =
    ending === "beats" && markers.length > 0
      ? `; ${markers.length} markers have no place in this format`
      : (ending === "vtt" || ending === "wav") && beats.length > 0
        ? `; ${beats.length} beats have no place in this format`
        : "";
  const written = [
    ...(ending === "vtt" || ending === "wav" ? [] : [`${beats.length} beats`]),
    ...(ending === "beats" ? [] : [`${markers.length} markers`]),
  ];
  return `${written.join(", ")}${lost}`;
}
