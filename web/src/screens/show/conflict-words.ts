import { lastOf, present } from "@humming-tide/core/presence";
import { type MergeConflict, type ShowDocument, slideName } from "@humming-tide/core/show";

/** Fields of the document in the words of the screens. */
const FIELDS: Readonly<Record<string, string>> = {
  title: "Name of the show",
  event: "Event",
  date: "Date",
  client: "Client",
  size: "Size of the film",
  frameRate: "Frame rate",
  lead: "Who leads",
  pace: "Pace",
  posterSlideId: "Poster",
  clockOffsets: "Camera clocks",
  caption: "Caption",
  words: "Words",
  rating: "Rating",
  hero: "Hero",
  sha256: "File",
  fileName: "Name of the file",
  formerFiles: "Earlier files",
  turn: "Turned by",
  landingLock: "Lock",
  length: "Length",
  stays: "Always keep",
  clip: "Part of the clip",
  sound: "Sound of the clip",
  subject: "Subject point",
  views: "Framing",
  more: "Pictures beside it",
  layout: "Layout",
  passageId: "Passage",
  name: "Name",
  startLock: "Begins with",
  formerSongs: "Songs from before",
  gridEdits: "Corrections of the beats",
  markers: "Markers",
  transition: "Transition",
  fill: "Fill",
  shapeFills: "Fill in single shapes",
  move: "Move",
  letters: "Letters",
  captions: "Captions",
  look: "Look",
  edge: "Border",
  overlay: "Overlay",
  graphic: "Graphic",
};

const LISTS: Readonly<Record<string, string>> = {
  passages: "Passage",
  slides: "Slide",
  songs: "Song",
  voices: "Voice",
  outputs: "Output",
};

const LONGEST_VALUE = 60;

/** What two windows disagree about, for people. */
export function conflictWords(
  { place, mine, theirs }: MergeConflict,
  document: ShowDocument,
): { readonly what: string; readonly mine: string; readonly theirs: string } {
  switch (place.kind) {
    case "whole":
      return { what: "The whole show", mine: "as it is here", theirs: "as it is there" };
    case "order":
      return { what: `Order of the ${place.list}`, mine: "as it is here", theirs: "as it is there" };
    case "gone":
      return {
        what: memberName(place.list, place.id, document, mine ?? theirs),
        mine: mine === undefined ? "taken out" : "kept, with its changes",
        theirs: theirs === undefined ? "taken out" : "kept, with its changes",
      };
    case "show":
      return { what: fieldName(place.field), mine: valueText(mine), theirs: valueText(theirs) };
    case "member":
      return {
        what: `${memberName(place.list, place.id, document, null)}: ${fieldName(place.field)}`,
        mine: valueText(mine),
        theirs: valueText(theirs),
      };
  }
}

function memberName(list: keyof typeof LISTS, id: string, document: ShowDocument, instead: unknown): string {
  const members = document[list as "slides"] as readonly { readonly id: string }[];
  const member = (members.find((one) => one.id === id) ?? instead ?? {}) as {
    readonly name?: string;
    readonly fileName?: string;
  };
  const slide = list === "slides" ? document.slides.find((one) => one.id === id) : undefined;
  const name = slide ? slideName(slide) : (member.name ?? member.fileName ?? "");
  return name ? `${LISTS[list]} ${name}` : present(LISTS[list]);
}

function fieldName(field: string): string {
  const last = lastOf(field.split("."));
  const plain = last.replace(/([A-Z])/g, " $1").toLowerCase();
  return FIELDS[last] ?? plain.charAt(0).toUpperCase() + plain.slice(1);
}

/** A value in a few words; what is no plain value is told apart by its side alone. */
function valueText(value: unknown): string {
  if (value === null || value === undefined || value === "") return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") return String(value);
  if (typeof value === "string") return value.length > LONGEST_VALUE ? `${value.slice(0, LONGEST_VALUE)} …` : value;
  if (isSize(value)) return `${value.width} x ${value.height}`;
  const { kind, fileName } = value as { readonly kind?: unknown; readonly fileName?: unknown };
  if (typeof fileName === "string") return valueText(fileName);
  return typeof kind === "string" ? kind.replaceAll("-", " ") : "as it is set there";
}

const isSize = (value: object): value is { readonly width: number; readonly height: number } =>
  "width" in value && "height" in value;
