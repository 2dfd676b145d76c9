import { counted } from "@humming-tide/core/language";
import type { Capitals, Entrance, MoveWish, TitleSet, TransitionWish, Words } from "@humming-tide/core/show";
import type { FilmLength } from "@humming-tide/core/values";

/** The kinds of transition as they are named for people, in the order in which they are offered. */
export const TRANSITION_NAMES: Readonly<Record<TransitionWish["kind"], string>> = {
  cut: "Cut",
  dissolve: "Dissolve",
  dip: "Dip to a colour",
  wipe: "Wipe",
  gradient: "Gradient",
  push: "Push",
  iris: "Iris",
  "page-turn": "Page turn",
  zoom: "Zoom",
  "light-flash": "Light flash",
  vary: "Varied",
};

export const WORD_NAMES: Readonly<Record<Words["kind"], string>> = {
  title: "Title",
  text: "Text",
  "lower-third": "Lower third",
  end: "End card",
  credits: "Credits",
};

/** Our own designs, named after what belongs to the regatta. */
export const TITLE_SET_NAMES: Readonly<Record<TitleSet, string>> = {
  quay: "Quay",
  lantern: "Lantern",
  pennant: "Pennant",
  logbook: "Log book",
  harbour: "Harbour",
  signal: "Signal",
  evening: "Evening",
  regatta: "Regatta",
  bow: "Bow",
  sail: "Sail",
};

export const ENTRANCE_NAMES: Readonly<Record<Entrance, string>> = {
  fade: "Fade",
  lines: "Line by line",
  letters: "Letter by letter",
  rule: "A rule draws, then the lines",
  rise: "Rise from an edge",
  track: "Open slowly",
};

export const CAPITALS_NAMES: readonly { readonly value: Capitals; readonly label: string; readonly hint?: string }[] = [
  { value: "as-written", label: "As written" },
  { value: "all", label: "Capitals" },
  { value: "small", label: "Small capitals" },
];

export const MOVE_NAMES: Readonly<Record<MoveWish["kind"], string>> = {
  rule: "Automatic",
  still: "Still",
  in: "In",
  out: "Out",
  left: "To the left",
  right: "To the right",
  up: "Up",
  down: "Down",
};

function lengthText({ unit, count }: FilmLength): string {
  if (unit === "seconds") return `${count} s`;
  return counted(count, "beat");
}

/** "cuts", "dissolves of 0.8 s": what leads into slides. */
export function transitionText(transition: TransitionWish): string {
  if (transition.kind === "cut") return "cuts";
  const length = lengthText(transition.length);
  if (transition.kind === "dissolve") return `dissolves of ${length}`;
  if (transition.kind === "vary") return `${transition.kinds.length} kinds varied, ${length}`;
  return `${TRANSITION_NAMES[transition.kind].toLowerCase()}, ${length}`;
}
