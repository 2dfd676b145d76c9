import { counted } from "../../language/index.ts";
import type { ChangedSlides, DocumentChange } from "./describe-change.ts";

type PlainKind = Exclude<DocumentChange["kind"], "songs" | "title" | "order-lock" | "moves">;

const WORDS: Readonly<Record<PlainKind, string>> = {
  came: "added",
  gone: "removed",
  replaced: "replaced",
  rated: "rated",
  turned: "turned",
  captioned: "captioned",
  locked: "locked or unlocked",
  lengthened: "given a length or a place",
  clipped: "trimmed",
  heard: "sound changed",
  styled: "given a style",
  framed: "framed",
  order: "order changed",
  grid: "grid corrected",
  markers: "markers changed",
  sections: "sections changed",
  "song-rearranged": "song rearranged",
  "song-trimmed": "song trimmed or faded",
  mix: "sound mixed",
  event: "event details changed",
  poster: "poster chosen",
  clocks: "camera clocks corrected",
  passages: "passages changed",
  voices: "voices changed",
  lead: "who leads changed",
  pace: "pace changed",
  refitted: "fitted again",
  style: "style changed",
  transitions: "transition timing changed",
  seed: "moves shuffled",
  format: "format changed",
  outputs: "outputs changed",
  "client-page": "client page changed",
};

/** A change as a short phrase in lower case: "3 pictures added", "order changed". */
export function changeText(change: DocumentChange): string {
  if (change.kind === "songs")
    return change.fileNames.length > 0 ? `song: ${change.fileNames.join(", ")}` : "song removed";
  if (change.kind === "title") return `named “${change.title}”`;
  if (change.kind === "order-lock") return change.isOn ? "order locked" : "order unlocked";
  if (change.kind === "moves") return change.isOn ? "moves switched on" : "moves switched off";
  return "slides" in change ? `${slidesText(change.slides)} ${WORDS[change.kind]}` : WORDS[change.kind];
}

const slidesText = ({ count, fileName }: ChangedSlides): string =>
  fileName === null ? counted(count, "picture") : `“${fileName}”`;
