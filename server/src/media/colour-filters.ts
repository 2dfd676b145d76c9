import { rmSync } from "node:fs";
import { mkdtemp } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { colourSteps, isHdr, type VideoColours } from "@humming-tide/core/colour";
import { writeColourTables } from "../workers/write-colour-tables.ts";

/** What brings colours to BT.709 in ffmpeg, which finds its tables by their names in a folder. */
export interface ColourFilters {
  readonly folder: string;
  readonly filters: readonly string[];
}

let folder: Promise<string> | null = null;
const made = new Map<string, Promise<ColourFilters>>();

/**
 * The filters for a clip's colours, made when they are first asked for. Their tables lie in a
 * folder that nobody else can write, which goes with the process.
 */
export function colourFilters(colours: VideoColours): Promise<ColourFilters> {
  // Without HDR the curve and the peak make no difference.
  const light = isHdr(colours) ? `${colours.transfer}-${colours.peakNits ?? "usual"}` : "plain";
  const name = `${light}-${colours.primaries}`;
  const known = made.get(name);
  if (known) return known;
  const making = make(colours, name).catch((error: unknown) => {
    made.delete(name);
    throw error;
  });
  made.set(name, making);
  return making;
}

async function make(colours: VideoColours, name: string): Promise<ColourFilters> {
  folder ??= ownFolder();
  const own = await folder;
  const names = { light: `${name}-light.cube`, code: `${name}-code.cube`, bend: `${name}-bend.cube` };
  const place = (step: keyof typeof names): string => path.join(own, names[step]);
  await writeColourTables({ colours, places: { light: place("light"), code: place("code"), bend: place("bend") } });
  const { mix, bend } = colourSteps(colours);
  // Every row of the filter has a share of the opacity too.
  const shares = mix.map((row) => `${row.map((share) => share.toFixed(7)).join(":")}:0`).join(":");
  return {
    folder: own,
    filters: [
      // 16 bits, since light needs them; in planes, which are faster. Older builds mix pixels only.
      "format=gbrp16le",
      `lut1d=file=${names.light}`,
      "format=rgb48le",
      `colorchannelmixer=${shares}`,
      "format=gbrp16le",
      `lut1d=file=${names.code}`,
      ...(bend ? [`lut3d=file=${names.bend}:interp=tetrahedral`] : []),
      // Older builds round planes badly where they make 8 bits of them.
      "format=rgb48le",
    ],
  };
}

async function ownFolder(): Promise<string> {
  const own = await mkdtemp(path.join(tmpdir(), "humming-tide-colours-"));
  process.once("exit", () => rmSync(own, { recursive: true, force: true }));
  return own;
}
