import { rmSync } from "node:fs";
import { mkdtemp } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { isHdr, type VideoColours } from "@humming-tide/core/colour";
import { writeColourTable } from "../workers/write-colour-table.ts";

/** A file of colours for ffmpeg, which finds it by its name in that folder. */
export interface ColourTable {
  readonly folder: string;
  readonly fileName: string;
}

let folder: Promise<string> | null = null;
const tables = new Map<string, Promise<ColourTable>>();

/**
 * The table that brings colours of a clip to BT.709, made when it is first asked for. It lies in a
 * folder that nobody else can write, which goes with the process.
 */
export function colourTable(colours: VideoColours): Promise<ColourTable> {
  // Without HDR the curve and the peak make no difference.
  const light = isHdr(colours) ? `${colours.transfer}-${colours.peakNits ?? "usual"}` : "plain";
  const fileName = `${light}-${colours.primaries}.cube`;
  const known = tables.get(fileName);
  if (known) return known;
  const made = make(colours, fileName).catch((error: unknown) => {
    tables.delete(fileName);
    throw error;
  });
  tables.set(fileName, made);
  return made;
}

async function make(colours: VideoColours, fileName: string): Promise<ColourTable> {
  folder ??= ownFolder();
  const own = await folder;
  await writeColourTable({ colours, place: path.join(own, fileName) });
  return { folder: own, fileName };
}

async function ownFolder(): Promise<string> {
  const own = await mkdtemp(path.join(tmpdir(), "humming-tide-colours-"));
  process.once("exit", () => rmSync(own, { recursive: true, force: true }));
  return own;
}
